// Presses that wait for the connection, held against the core's vectors.
import { describe, expect, test } from "vitest";
import type { Schemas } from "../api/client";
import vectors from "./vectors.json";
import { type MayWait, mayWait, pressedHere } from "./waiting";

const BEGAN = 1000;

describe.each(Object.entries(vectors))("%s", (_name, given) => {
  test("a press here leaves the clock as the core's would, or is left to the core", () => {
    for (const [held, press, position, after] of given.presses) {
      const at = Number(position);
      const clock = {
        script: given.script,
        ended: false,
        heats: [0],
        began: held ? null : BEGAN,
        held: held ? at : null,
      } as unknown as Schemas["ClockOut"];
      const found = pressedHere(clock, press as MayWait, BEGAN + at);
      if (!found) {
        // An open piece at its cap is over on the screen; the core closes it when it is told.
        continue;
      }
      expect([held, press, at, [found.began, found.held]]).toEqual([held, press, at, after]);
    }
  });

  test("what the core can tell without changing the script is told here", () => {
    const told = given.presses.filter(([, , , after]) => after !== null);
    expect(told.length).toBeGreaterThan(4);
  });
});

test("only what can be told here waits", () => {
  expect(["pause", "resume", "skip"].every(mayWait)).toBe(true);
  expect(["start", "restart", "finish", "longer rest", null].some(mayWait)).toBe(false);
});
