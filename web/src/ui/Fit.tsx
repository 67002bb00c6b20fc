// Text as large as its box allows. Nobody scrolls a wall.
import { type ReactNode, useLayoutEffect, useRef } from "react";

const STEPS = 7;

/**
 * Children whose sizes are in `em` of this box: its letters are as large as the box allows, from
 * `least` to `most` times their size. Set anew whenever `of` changes, or the box; `onFit` is told
 * how large they came out.
 */
export function Fit(props: {
  className?: string;
  of: unknown;
  least?: number;
  most?: number;
  onFit?: (size: number) => void;
  children: ReactNode;
}) {
  const { of, least = 0.3, most = 1, onFit } = props;
  const told = useRef(onFit);
  told.current = onFit;
  const outer = useRef<HTMLDivElement>(null);
  const inner = useRef<HTMLDivElement>(null);
  // Other content has another height.
  useLayoutEffect(() => {
    const [box, held] = [outer.current, inner.current];
    if (!box || !held) return;
    const fits = (size: number) => {
      held.style.fontSize = `${size}em`;
      // What hangs over the edge of what is held counts as well.
      const [high, wide] = [held, box].reduce(
        ([h, w], each) => [Math.max(h, each.scrollHeight), Math.max(w, each.scrollWidth)],
        [0, 0],
      );
      return high <= box.clientHeight + 1 && wide <= box.clientWidth + 1;
    };
    const fit = () => {
      const size = largest();
      told.current?.(size);
    };
    const largest = () => {
      if (fits(most)) return most;
      let [small, large] = [least, most];
      for (let step = 0; step < STEPS; step++) {
        const middle = (small + large) / 2;
        if (fits(middle)) small = middle;
        else large = middle;
      }
      fits(small);
      return small;
    };
    fit();
    document.fonts?.ready.then(fit);
    if (typeof ResizeObserver === "undefined") return;
    const watch = new ResizeObserver(fit);
    watch.observe(box);
    // What it holds grows by itself when a face of its letters arrives late.
    watch.observe(held);
    return () => watch.disconnect();
  }, [of, least, most]);
  return (
    <div ref={outer} className={props.className} style={{ minHeight: 0, overflow: "hidden" }}>
      <div ref={inner}>{props.children}</div>
    </div>
  );
}
