import { cleanup, fireEvent, render } from "@testing-library/react";
import { afterEach, describe, expect, test, vi } from "vitest";
import { daysOf, useSwipe } from "./swipe";

afterEach(cleanup);

describe("a stroke", () => {
  test.each([
    ["to the left", { x: 300, y: 400 }, { x: 200, y: 420 }, 200, 1],
    ["to the right", { x: 100, y: 400 }, { x: 200, y: 380 }, 200, -1],
    ["too short", { x: 100, y: 400 }, { x: 150, y: 400 }, 200, 0],
    ["mostly down, as one scrolls", { x: 100, y: 100 }, { x: 170, y: 300 }, 200, 0],
    ["slow, as one selects", { x: 300, y: 400 }, { x: 200, y: 400 }, 1500, 0],
  ])("%s", (_, from, to, ms, days) => {
    expect(daysOf(from, to, ms)).toBe(days);
  });
});

function Page({ go }: { go: (days: number) => void }) {
  useSwipe(go);
  return (
    <main>
      <p>Workout</p>
      <input aria-label="Score" />
    </main>
  );
}

test("a swipe over the page goes to the next day, one in a field does not", () => {
  const go = vi.fn();
  const { getByText, getByLabelText } = render(<Page go={go} />);
  const draw = (node: Element, from: number, to: number) => {
    fireEvent.touchStart(node, { touches: [{ clientX: from, clientY: 300 }] });
    fireEvent.touchEnd(node, { changedTouches: [{ clientX: to, clientY: 300 }] });
  };
  draw(getByLabelText("Score"), 300, 100);
  expect(go).not.toHaveBeenCalled();
  draw(getByText("Workout"), 300, 100);
  expect(go).toHaveBeenLastCalledWith(1);
  draw(getByText("Workout"), 100, 300);
  expect(go).toHaveBeenLastCalledWith(-1);
});
