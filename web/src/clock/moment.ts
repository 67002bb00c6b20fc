// The clock all displays share: this device's own, corrected against the server's.
import { useEffect, useState } from "react";
import { api } from "../api/client";

const TRIES = 6;
const AGAIN_MS = 60_000;
const FIRST_MS = 2000;

// One correction a page, however many of its parts keep time.
let offset: number | null = null;
let users = 0;
const heard = new EventTarget();
const now = () => Date.now() / 1000 + (offset ?? 0);

function correctBy(found: number): void {
  offset = found;
  heard.dispatchEvent(new Event("known"));
}

/** Measure how far this device's clock is off: the quickest of several tries tells it best. */
async function measure() {
  let shortest = Number.POSITIVE_INFINITY;
  let best: number | null = null;
  for (let n = 0; n < TRIES; n += 1) {
    try {
      const sent = Date.now() / 1000;
      const { data } = await api.GET("/api/time");
      const back = Date.now() / 1000;
      if (!data || back - sent >= shortest) continue;
      shortest = back - sent;
      best = data.now - (sent + back) / 2;
      // A rough correction is better than none.
      if (offset === null) correctBy(best);
    } catch {
      // Without the network the last correction stands.
    }
  }
  if (best !== null) correctBy(best);
}

/** Tells the shared moment, in seconds since the epoch; null until it is known. */
export type Moment = (() => number) | null;

/** Correct this device's clock from now on; the answer ends it. */
function keepTime(): () => void {
  measure();
  const timer = window.setInterval(() => {
    if (!document.hidden) measure();
  }, AGAIN_MS);
  const first = window.setInterval(() => offset === null && measure(), FIRST_MS);
  window.addEventListener("online", measure);
  return () => {
    window.clearInterval(timer);
    window.clearInterval(first);
    window.removeEventListener("online", measure);
  };
}

let stop: (() => void) | undefined;

export function useMoment(): Moment {
  const [known, setKnown] = useState(offset !== null);
  useEffect(() => {
    const look = () => setKnown(true);
    heard.addEventListener("known", look);
    users += 1;
    if (users === 1) stop = keepTime();
    return () => {
      heard.removeEventListener("known", look);
      users -= 1;
      if (users === 0) stop?.();
    };
  }, []);
  return known ? now : null;
}

/** Seconds that this device's clock is behind the gym's (before it, if negative); 0 until known. */
export function useClockOff(): number {
  return useMoment() ? (offset ?? 0) : 0;
}

type Held = { began: number | null; held: number | null };

/** The position on a clock at a moment; null before the start. */
export const positionAt = (clock: Held, now: number): number | null =>
  clock.held ?? (clock.began === null ? null : now - clock.began);

/** Whole seconds of the round that is over now, by the clock less the rounds before; 0 for none. */
export function roundNow(
  clock: Held & { heats: readonly number[] },
  heat: number,
  moment: Moment,
  before: readonly number[],
): number {
  const position = moment && positionAt(clock, moment());
  const begun = clock.heats[heat - 1];
  if (position === null || begun === undefined) return 0;
  return Math.max(0, Math.floor(position - begun) - before.reduce((sum, one) => sum + one, 0));
}
