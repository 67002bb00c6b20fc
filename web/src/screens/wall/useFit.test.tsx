import { render } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { useFit } from "./useFit";

const wall = {} as Schemas["WallOut"];

/** A board whose rows are 300 px tall each, on a screen of 800 by 1280. */
function Board({ rows }: { rows: number }) {
  const box = useFit(wall, rows);
  return <div ref={box} data-testid="board" data-rows={rows} />;
}

function zoomOf(rows: number, again?: number): number {
  Object.defineProperty(window, "innerHeight", { value: 800, configurable: true });
  Object.defineProperty(window, "innerWidth", { value: 1280, configurable: true });
  Object.defineProperty(document, "fonts", {
    value: { ready: Promise.resolve() },
    configurable: true,
  });
  vi.spyOn(HTMLElement.prototype, "getBoundingClientRect").mockImplementation(function (
    this: HTMLElement,
  ) {
    return { height: 300 * Number(this.dataset.rows) * Number(this.style.zoom) } as DOMRect;
  });
  const { getByTestId, rerender, unmount } = render(<Board rows={rows} />);
  if (again !== undefined) rerender(<Board rows={again} />);
  const zoom = Number(getByTestId("board").style.zoom);
  unmount();
  return zoom;
}

test("a small board grows and a tall one shrinks", () => {
  expect(zoomOf(1)).toBe(1.5);
  expect(zoomOf(4)).toBeCloseTo(0.6);
});

test("a board is fitted anew when its figures arrive", () => {
  expect(zoomOf(1, 4)).toBe(zoomOf(4));
  expect(zoomOf(4, 1)).toBe(zoomOf(1));
});
