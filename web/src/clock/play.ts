// Where a played piece stands: reading the script that the server made, nothing more.
import type { Schemas } from "../api/client";

type Clock = Schemas["ClockOut"];
export type Beat = Schemas["Beat"];

export type Stand = {
  phase: "waiting" | "lead-in" | "playing" | "over";
  beat: Beat | null;
  next: Beat | null;
  /** Seconds shown: what is left of a beat with an end, what has gone by where there is none. */
  shown: number;
  down: boolean;
  /** Seconds of the beat that have gone by. */
  gone: number;
  /** Share of the beat that is done, 0 to 1. */
  done: number;
};

const end = (beat: Beat): number =>
  beat.length_s === null ? Number.POSITIVE_INFINITY : (beat.start_s ?? 0) + beat.length_s;

export function standAt(clock: Clock, position: number | null): Stand {
  const { beats, cap_s, total_s } = clock.script;
  const first = beats[0] ?? null;
  const base = { beat: null, next: first, shown: 0, down: true, gone: 0, done: 0 };
  if (position === null) return { ...base, phase: "waiting" };
  if (position < 0) return { ...base, phase: "lead-in", shown: -position };
  const index = beats.findIndex((beat) => beat.start_s !== null && position < end(beat));
  const beat = beats[index];
  const capped = beat?.length_s === null && cap_s !== null && position >= cap_s;
  if (!beat || clock.ended || capped) {
    const shown = capped ? cap_s : (total_s ?? position);
    return { ...base, next: null, phase: "over", shown, down: false, done: 1 };
  }
  const gone = position - (beat.start_s ?? 0);
  const length = beat.length_s;
  return {
    phase: "playing",
    beat,
    next: beats[index + 1] ?? null,
    shown: length === null ? gone : length - gone,
    down: length !== null,
    gone,
    done: length === null ? (cap_s ? position / cap_s : 0) : gone / length,
  };
}

/** The stand of the first heat that is not over, and which one it is, from 0. */
export function faceAt(clock: Clock, position: number | null): Stand & { heat: number } {
  const stands = clock.heats.map((begun) =>
    standAt(clock, position === null ? null : position - begun),
  );
  const open = stands.findIndex((stand) => stand.phase !== "over");
  const heat = open < 0 ? stands.length - 1 : open;
  return { ...(stands[heat] ?? standAt(clock, position)), heat };
}

/** All that a face shows at a position, as one text: while it is the same, nothing is rendered. */
export function faceKey(clock: Clock, position: number | null): string {
  const stand = faceAt(clock, position);
  const end = clock.script.total_s ?? clock.script.cap_s;
  const tempo = stand.beat && tempoAt(stand.beat, stand.gone);
  const heats = clock.heats.map((begun) => {
    const there = standAt(clock, position === null ? null : position - begun);
    return `${there.phase} ${clockFace(there.shown, there.down)}`;
  });
  return [
    clock.class_id,
    clock.key,
    stand.phase,
    stand.heat,
    stand.beat?.id,
    stand.next?.id,
    tempo && `${tempo.phase} ${tempo.count}`,
    position !== null && end ? clockFace(end - position, true) : "",
    ...heats,
  ].join("/");
}

/** What comes next in words; a hand-over names the partner. */
export function nextWords(beat: Beat | null, next: Beat): string {
  const handed = next.member && next.member !== beat?.member;
  return `next: ${handed ? `partner ${next.member}, ` : ""}${next.lines.join(" · ")}`;
}

/** Seconds as a clock shows them: counting down, a begun second still counts. */
export function clockFace(seconds: number, down: boolean): string {
  const whole = Math.max(0, down ? Math.ceil(seconds - 0.001) : Math.floor(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** The phase of a tempo at a moment of its beat: which word, and the seconds counted in it. */
export function tempoAt(beat: Beat, gone: number): { phase: string; count: number } | null {
  const length = beat.tempo.reduce((sum, step) => sum + step.seconds, 0);
  if (!length) return null;
  let at = gone % length;
  for (const step of beat.tempo) {
    if (at < step.seconds) return { phase: step.phase, count: Math.floor(at) + 1 };
    at -= step.seconds;
  }
  return null;
}
