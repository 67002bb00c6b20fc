// Frames of a running clock. What moves with every frame is written to the page itself; a screen is
// rendered anew only when what its face shows has changed, about once a second.
import { type RefObject, useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { type Moment, positionAt } from "./moment";
import { faceAt, faceKey } from "./play";

type Clock = Schemas["ClockOut"];

/** Call `act` with the position on a clock at every frame while it runs, and once where it stands:
 * null before the start. */
export function useFrames(
  clock: Clock | null | undefined,
  moment: Moment,
  act: (position: number | null) => void,
): void {
  const newest = useRef(act);
  useEffect(() => {
    newest.current = act;
  });
  useEffect(() => {
    const at = () => (clock && moment ? positionAt(clock, moment()) : (clock?.held ?? null));
    const moves = clock && moment && clock.held === null && clock.began !== null;
    let frame = 0;
    const step = () => {
      newest.current(at());
      if (moves) frame = requestAnimationFrame(step);
    };
    step();
    return () => cancelAnimationFrame(frame);
  }, [clock, moment]);
}

/** The position on a clock, as of the last change of its face; null before the start. */
export function usePosition(clock: Clock | null | undefined, moment: Moment): number | null {
  const [position, setPosition] = useState<number | null>(null);
  const shown = useRef("");
  useFrames(clock, moment, (at) => {
    const key = clock ? faceKey(clock, at) : "";
    if (key === shown.current) return;
    shown.current = key;
    setPosition(at);
  });
  return position;
}

/** An element whose `data-ms` tells the position on a clock in milliseconds; empty before the start. */
export function useMs<E extends HTMLElement>(
  clock: Clock | null | undefined,
  moment: Moment,
): RefObject<E | null> {
  const ref = useRef<E>(null);
  useFrames(clock, moment, (at) => {
    if (ref.current) ref.current.dataset.ms = at === null ? "" : String(Math.round(at * 1000));
  });
  return ref;
}

/** An element that is told, at every frame, the share of the beat that is done, from 0 to 1. */
export function useDone<E extends HTMLElement>(
  clock: Clock,
  moment: Moment,
  show: (element: E, share: number) => void,
): RefObject<E | null> {
  const ref = useRef<E>(null);
  useFrames(clock, moment, (at) => {
    if (ref.current) show(ref.current, faceAt(clock, at).done);
  });
  return ref;
}
