// Sounds made in the browser: one tone a kind of call, each of which can be switched off.
import { useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { useFrames } from "./frames";
import type { Moment } from "./moment";
import { faceAt, tempoAt } from "./play";

type Clock = Schemas["ClockOut"];
export type CallKind = Schemas["Call"]["kind"] | "tempo";

const KEY = "pine-calls";
const LATE_S = 0.6;
const SHOWN_S = 6;

export const CALLS: [CallKind, string][] = [
  ["work", "Work begins"],
  ["rest", "Rest begins"],
  ["count", "3 – 2 – 1"],
  ["ten", "Ten seconds"],
  ["halfway", "Halfway"],
  ["switch", "Other side"],
  ["hand over", "Hand over"],
  ["minute", "A minute to the cap"],
  ["cap", "Cap"],
  ["end", "The end"],
  ["tempo", "Tempo"],
];

/** Hertz and seconds of each tone; a call of two tones is told apart by ear. */
const TONES: Record<CallKind, [number, number][]> = {
  work: [[880, 0.45]],
  rest: [[392, 0.5]],
  count: [[587, 0.12]],
  ten: [
    [494, 0.1],
    [494, 0.1],
  ],
  halfway: [
    [523, 0.12],
    [659, 0.18],
  ],
  switch: [
    [740, 0.1],
    [587, 0.16],
  ],
  "hand over": [
    [659, 0.14],
    [880, 0.3],
  ],
  minute: [[440, 0.3]],
  cap: [[330, 0.9]],
  end: [
    [880, 0.25],
    [659, 0.25],
    [440, 0.6],
  ],
  tempo: [[1175, 0.04]],
};

let context: AudioContext | undefined;

/** Browsers let a page sound only after a press on it. */
export function wakeSound(): void {
  context ??= new AudioContext();
  context.resume();
}

export function sound(kind: CallKind): void {
  if (context?.state !== "running") return;
  let at = context.currentTime;
  for (const [pitch, length] of TONES[kind]) {
    const tone = context.createOscillator();
    const level = context.createGain();
    tone.type = "triangle";
    tone.frequency.value = pitch;
    level.gain.setValueAtTime(0.35, at);
    level.gain.exponentialRampToValueAtTime(0.001, at + length);
    tone.connect(level).connect(context.destination);
    tone.start(at);
    tone.stop(at + length);
    at += length + 0.05;
  }
}

export function useSilent(): [Set<CallKind>, (kind: CallKind) => void] {
  const [silent, setSilent] = useState<Set<CallKind>>(
    () => new Set(JSON.parse(localStorage.getItem(KEY) ?? "[]")),
  );
  const flip = (kind: CallKind) => {
    const next = new Set(silent);
    if (!next.delete(kind)) next.add(kind);
    localStorage.setItem(KEY, JSON.stringify([...next]));
    setSilent(next);
  };
  return [silent, flip];
}

/** Sound the calls of every heat as the clock passes them; the words of the newest for a while. */
export function useCalls(
  clock: Clock | null | undefined,
  moment: Moment,
  silent: Set<CallKind>,
): string {
  const before = useRef<{ key: string; position: number } | null>(null);
  const newest = useRef({ words: "", at: 0 });
  const [words, setWords] = useState("");
  const key = clock ? `${clock.class_id}/${clock.key}/${clock.began}` : "";
  useFrames(clock, moment, (position) => {
    const last = before.current;
    if (!clock || position === null || clock.began === null) {
      before.current = null;
      return;
    }
    before.current = { key, position };
    const shown = newest.current;
    const stale = last?.key !== key || position - shown.at >= SHOWN_S || position < shown.at;
    if (shown.words && stale) {
      newest.current = { words: "", at: position };
      setWords("");
    }
    // A jump (skip, undo, a page that slept) sounds nothing that lies in between.
    const from = last?.key === key ? last.position : position - 0.05;
    if (position - from > LATE_S || position < from) return;
    const passed = (at: number) => at >= from && at < position;
    for (const n of [3, 2, 1]) {
      if (passed(-n) && !silent.has("count")) sound("count");
    }
    const { beat, gone } = faceAt(clock, position);
    if (beat && beat.tempo.length > 0 && !silent.has("tempo")) {
      const was = tempoAt(beat, gone - (position - from));
      const now = tempoAt(beat, gone);
      if (now && (was?.phase !== now.phase || was.count !== now.count)) sound("tempo");
    }
    for (const [heat, begun] of clock.heats.entries()) {
      for (const call of clock.script.calls) {
        if (!passed(begun + call.at_s)) continue;
        if (!silent.has(call.kind)) sound(call.kind);
        const own = call.kind === "count" || call.kind === "work" ? "" : call.words;
        const whose = own && clock.waves > 1 ? `heat ${heat + 1}: ` : "";
        newest.current = { words: whose + own, at: position };
        setWords(whose + own);
      }
    }
  });
  return clock?.began === null ? "" : words;
}
