// How somebody's rounds go while the class runs, as the server judges them afterwards.

const FEWEST = 3;
const STEADY = 0.1;
const FALLING = 0.2;
const ROUNDING = 1e-9;

export type Verdict = "steady" | "falling" | "collapsed" | "rising";

const mean = (numbers: readonly number[]): number =>
  numbers.reduce((sum, one) => sum + one, 0) / numbers.length;

/** The last third of the rounds against the first, in seconds; null before a third round. */
export function pacing(seconds: readonly number[]): Verdict | null {
  const part = Math.max(1, Math.floor(seconds.length / FEWEST));
  const first = mean(seconds.slice(0, part));
  if (seconds.length < FEWEST || first <= 0) return null;
  const drop = mean(seconds.slice(-part)) / first - 1;
  if (drop < -STEADY - ROUNDING) return "rising";
  if (drop <= STEADY + ROUNDING) return "steady";
  return drop <= FALLING + ROUNDING ? "falling" : "collapsed";
}
