// The clock all displays share: this device's own, corrected against the server's.
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";

const TRIES = 6;
const AGAIN_MS = 60_000;

/** Tell the seconds to add to this device's clock, better with every try that is quicker. */
async function measure(tell: (offset: number) => void) {
  let shortest = Number.POSITIVE_INFINITY;
  for (let n = 0; n < TRIES; n += 1) {
    try {
      const sent = Date.now() / 1000;
      const { data } = await api.GET("/api/time");
      const back = Date.now() / 1000;
      if (!data || back - sent >= shortest) continue;
      shortest = back - sent;
      tell(data.now - (sent + back) / 2);
    } catch {
      // Without the network the last correction stands.
    }
  }
}

/** A function that tells the shared moment, in seconds since the epoch; null until it is known. */
export function useMoment(): (() => number) | null {
  const offset = useRef<number | null>(null);
  const [known, setKnown] = useState(false);
  useEffect(() => {
    let gone = false;
    const correct = () =>
      measure((found) => {
        if (gone) return;
        offset.current = found;
        setKnown(true);
      });
    correct();
    const timer = window.setInterval(() => {
      if (!document.hidden) correct();
    }, AGAIN_MS);
    const first = window.setInterval(() => offset.current === null && correct(), 2000);
    const back = () => correct();
    window.addEventListener("online", back);
    return () => {
      gone = true;
      window.clearInterval(timer);
      window.clearInterval(first);
      window.removeEventListener("online", back);
    };
  }, []);
  const tell = useRef(() => Date.now() / 1000 + (offset.current ?? 0));
  return known ? tell.current : null;
}

/** The position on a running clock, renewed every frame; null before the start. */
export function usePosition(
  clock: { began: number | null; held: number | null } | null | undefined,
  moment: (() => number) | null,
): number | null {
  const [position, setPosition] = useState<number | null>(null);
  const began = clock?.began ?? null;
  const held = clock?.held ?? null;
  useEffect(() => {
    if (held !== null || began === null || !moment) {
      setPosition(held);
      return;
    }
    let frame = 0;
    const step = () => {
      setPosition(moment() - began);
      frame = requestAnimationFrame(step);
    };
    step();
    return () => cancelAnimationFrame(frame);
  }, [began, held, moment]);
  return position;
}
