// Laps by heat: a round's time is the clock's, less its heat's start and the rounds before.
import { expect, test } from "vitest";
import { roundNow } from "./moment";

const clock = { began: 1000, held: null, heats: [0, 90] };

test("a lap counts from its own heat's start", () => {
  expect(roundNow(clock, 1, () => 1130, [60])).toBe(70);
  expect(roundNow(clock, 2, () => 1130, [])).toBe(40);
});

test("a heat that has not begun has no lap", () => {
  expect(roundNow(clock, 3, () => 1130, [])).toBe(0);
});

test("a held clock laps at where it is held", () => {
  expect(roundNow({ ...clock, began: null, held: 100 }, 1, () => 9999, [30])).toBe(70);
});
