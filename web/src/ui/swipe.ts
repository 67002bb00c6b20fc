// A finger drawn sideways over the page: the day after, or the day before.
import { useEffect, useRef } from "react";

const FARTHEST_ASIDE = 0.5;
const SHORTEST_PX = 60;
const LONGEST_MS = 700;

type Point = { x: number; y: number };

/** Days to go on by for a stroke: 1 to the left, -1 to the right, 0 where it is no swipe. */
export function daysOf(from: Point, to: Point, ms: number): -1 | 0 | 1 {
  const across = to.x - from.x;
  const down = Math.abs(to.y - from.y);
  if (ms > LONGEST_MS || Math.abs(across) < SHORTEST_PX) return 0;
  if (down > FARTHEST_ASIDE * Math.abs(across)) return 0;
  return across < 0 ? 1 : -1;
}

/** Whether an element, or one around it, takes strokes for itself: a field, or what scrolls aside. */
function takesStrokes(target: EventTarget | null): boolean {
  for (let node = target instanceof Element ? target : null; node; node = node.parentElement) {
    if (node.matches("input, textarea, select, [role=slider], [role=dialog]")) return true;
    const scrolls = getComputedStyle(node).overflowX;
    const wide = node.scrollWidth > node.clientWidth + 1;
    if (wide && (scrolls === "auto" || scrolls === "scroll")) return true;
  }
  return false;
}

/** Call `go` with the days to go on by when a finger is drawn sideways over the page. */
export function useSwipe(go: (days: -1 | 1) => void): void {
  const current = useRef(go);
  current.current = go;
  useEffect(() => {
    let start: (Point & { at: number }) | null = null;
    const begin = (event: TouchEvent) => {
      const touch = event.touches.length === 1 ? event.touches[0] : undefined;
      const free = touch && !takesStrokes(event.target);
      start = free ? { x: touch.clientX, y: touch.clientY, at: event.timeStamp } : null;
    };
    const end = (event: TouchEvent) => {
      const touch = event.changedTouches[0];
      if (!start || !touch) return;
      const to = { x: touch.clientX, y: touch.clientY };
      const days = daysOf(start, to, event.timeStamp - start.at);
      start = null;
      if (days !== 0) current.current(days);
    };
    document.addEventListener("touchstart", begin, { passive: true });
    document.addEventListener("touchend", end, { passive: true });
    return () => {
      document.removeEventListener("touchstart", begin);
      document.removeEventListener("touchend", end);
    };
  }, []);
}
