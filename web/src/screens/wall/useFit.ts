// A board on a wall as large as the screen allows. Nobody scrolls a wall.
import { useLayoutEffect, useRef } from "react";
import type { Schemas } from "../../api/client";

/** Padding of a wall above and below, in widths of the screen. */
const MARGIN = 0.022;

/** How far a board grows that would leave much of the screen empty. */
const GROWN = [1.5, 1.35, 1.2, 1.1, 1];

/** The box to zoom: fitted anew for another board, and when figures or bests arrive (`shown` of them). */
export function useFit(wall: Schemas["WallOut"], shown: number) {
  const box = useRef<HTMLDivElement>(null);
  // Another board has another height, and its figures come after it.
  useLayoutEffect(() => {
    const fit = () => {
      const [held, room] = [box.current, window.innerHeight - 2 * MARGIN * window.innerWidth];
      if (!held) return;
      const tall = (zoom: number) => {
        held.style.zoom = String(zoom);
        return held.getBoundingClientRect().height;
      };
      if (GROWN.some((zoom) => tall(zoom) <= room)) return;
      for (let zoom = 0.95; zoom > 0.2 && tall(zoom) > room; zoom -= 0.05);
    };
    fit();
    document.fonts.ready.then(fit);
    window.addEventListener("resize", fit);
    return () => window.removeEventListener("resize", fit);
  }, [wall, shown]);
  return box;
}
