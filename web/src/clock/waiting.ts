// A press of the remote that waits for the connection: what the clock says until the server has it.
import type { Schemas } from "../api/client";
import { positionAt } from "./moment";
import { standAt } from "./play";

type Clock = Schemas["ClockOut"];
export type MayWait = "pause" | "resume" | "skip";
const PRESSES: ReadonlySet<string> = new Set<MayWait>(["pause", "resume", "skip"]);

export const mayWait = (press: string | null | undefined): press is MayWait =>
  Boolean(press && PRESSES.has(press));

/** The clock after a press at a moment; null where only the server can tell. */
export function pressedHere(clock: Clock, press: MayWait, at: number): Clock | null {
  const position = positionAt(clock, at);
  if (position === null) return null;
  if (press === "pause")
    return clock.held === null ? { ...clock, held: position, began: null } : null;
  if (press === "resume") {
    return clock.held === null ? null : { ...clock, began: at - clock.held, held: null };
  }
  const { beat } = standAt(clock, position);
  const ends = beat?.length_s == null ? null : (beat.start_s ?? 0) + beat.length_s;
  const to = position < 0 ? 0 : ends;
  if (to === null) return null;
  if (clock.held !== null) return { ...clock, held: clock.held + to - position };
  return clock.began === null ? null : { ...clock, began: clock.began - (to - position) };
}
