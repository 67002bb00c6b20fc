// A piece in parts as they are counted on the floor: minutes, intervals, sets, rounds.
import type { Beat } from "../../clock/play";

export type Part = {
  /** Its number from 1. */
  number: number;
  /** Its share of the strip, by length; 1 where it has none. */
  share: number;
  /** What it asks for where parts differ: the amounts, as `12·9`. */
  amounts: string;
  beats: ReadonlySet<string>;
};

const MINUTE_S = 60;
const AMOUNT = /^(max|[\d:.–-]+(?: (?:m|km|cal|s))?)(?= )/;

const amounts = (beat: Beat) =>
  beat.lines
    .map((line) => AMOUNT.exec(line)?.[1] ?? "")
    .filter(Boolean)
    .join("·");

/** The parts of a piece, and what one is called; none where it is all one. */
export function partsOf(
  beats: readonly Beat[],
  format: string,
): { name: string; parts: readonly Part[] } {
  const windows = beats.some((beat) => beat.window !== null);
  const found = new Map<number, { beats: Beat[]; length: number }>();
  let number = 0;
  for (const beat of beats) {
    // A minute of rest is a minute; the rest between rounds is none.
    if (beat.kind === "rest" && !windows) continue;
    // A round that was closed and begun again in another block is another part.
    const own = windows ? beat.window : beat.round;
    if (own === null) continue;
    number = own;
    const part = found.get(number) ?? { beats: [], length: 0 };
    part.beats.push(beat);
    part.length += beat.kind === "open" ? 0 : (beat.length_s ?? 0);
    found.set(number, part);
  }
  const all = [...found.entries()].sort(([a], [b]) => a - b);
  if (all.length < 2) return { name: "", parts: [] };
  const asked = all.map(([, part]) => part.beats.map(amounts).filter(Boolean).join("·"));
  const differ = new Set(asked).size > 1;
  const lengths = all.map(([, part]) => part.length);
  const minute = windows && lengths.every((length) => length === MINUTE_S);
  return {
    name: windows ? (minute ? "minute" : "interval") : /\bsets?\b/.test(format) ? "set" : "round",
    parts: all.map(([own, part], at) => ({
      number: own,
      // An open part has no length: then all are alike.
      share: lengths.includes(0) ? 1 : part.length,
      amounts: differ ? (asked[at] ?? "") : "",
      beats: new Set(part.beats.map((beat) => beat.id)),
    })),
  };
}

/** Which part a beat is in, from 0; during a rest the one that was; -1 before the first. */
export function partAt(parts: readonly Part[], beats: readonly Beat[], now: Beat | null): number {
  let at = -1;
  for (const beat of beats) {
    const own = parts.findIndex((part) => part.beats.has(beat.id));
    if (own >= 0) at = own;
    if (beat.id === now?.id) return at;
  }
  return now ? at : -1;
}
