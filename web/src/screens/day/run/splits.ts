// How somebody's rounds go, in a word.

/** From which share on a round is another one than the first two. */
const APART = 0.08;

/** `steady`, `fading` or `quicker`: the last round against the first two; empty before a third. */
export function pacing(seconds: readonly number[]): string {
  const last = seconds.at(-1);
  if (seconds.length < 3 || last === undefined) return "";
  const first = ((seconds[0] ?? 0) + (seconds[1] ?? 0)) / 2;
  if (first <= 0) return "";
  const off = last / first - 1;
  return off > APART ? "fading" : off < -APART ? "quicker" : "steady";
}
