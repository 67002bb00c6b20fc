// A finger on a tile: a tap, a long press, and one that slides away.
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useHold } from "./Floor";

const tap = vi.fn();
const hold = vi.fn();

function Tile() {
  return (
    <button type="button" {...useHold(tap, hold)}>
      Ada
    </button>
  );
}

beforeEach(() => {
  vi.useFakeTimers();
  tap.mockReset();
  hold.mockReset();
  render(<Tile />);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});
const tile = () => screen.getByRole("button");
const told = () => [tap.mock.calls.length, hold.mock.calls.length];

test("a short press is a tap", () => {
  fireEvent.pointerDown(tile());
  vi.advanceTimersByTime(200);
  fireEvent.pointerUp(tile());
  fireEvent.click(tile());
  vi.advanceTimersByTime(2000);
  expect(told()).toEqual([1, 0]);
});

test("a long press takes back, and is no tap as well", () => {
  fireEvent.pointerDown(tile());
  vi.advanceTimersByTime(700);
  fireEvent.pointerUp(tile());
  fireEvent.click(tile());
  expect(told()).toEqual([0, 1]);
});

test.each([
  "pointerLeave",
  "pointerCancel",
] as const)("a finger that slides off a tile takes nothing back (%s)", (leave) => {
  fireEvent.pointerDown(tile());
  vi.advanceTimersByTime(300);
  fireEvent[leave](tile());
  vi.advanceTimersByTime(3000);
  expect(told()).toEqual([0, 0]);
});
