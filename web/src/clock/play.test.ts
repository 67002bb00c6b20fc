// Where a played piece stands, held against the core's vectors.
import { describe, expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { standAt, tempoAt } from "./play";
import vectors from "./vectors.json";

const clockOf = (script: unknown): Schemas["ClockOut"] =>
  ({ script, ended: false, heats: [0] }) as unknown as Schemas["ClockOut"];

describe.each(Object.entries(vectors))("%s", (_name, held) => {
  const clock = clockOf(held.script);
  test("every half second stands on the beat the core says", () => {
    for (const [position, id] of held.stands) {
      const stand = standAt(clock, position as number);
      expect([position, stand.beat?.id ?? null]).toEqual([position, id]);
      expect(stand.phase).toBe(id === null ? "over" : "playing");
    }
  });
});

test("before the start the lead-in counts down, and an unstarted clock waits", () => {
  const clock = clockOf(vectors["a Tabata"].script);
  expect(standAt(clock, null).phase).toBe("waiting");
  expect(standAt(clock, -3)).toMatchObject({ phase: "lead-in", shown: 3, down: true });
});

test("an open piece that reaches its cap is over and shows the cap", () => {
  const clock = clockOf(vectors["an open piece with a cap"].script);
  expect(standAt(clock, 299.5).phase).toBe("playing");
  expect(standAt(clock, 300)).toMatchObject({ phase: "over", shown: 300 });
});

test("the seconds of a tempo are counted from one, phase by phase and rep by rep", () => {
  const beat = {
    tempo: [
      { phase: "down", seconds: 3 },
      { phase: "hold", seconds: 1 },
      { phase: "up", seconds: 0 },
    ],
  } as unknown as Parameters<typeof tempoAt>[0];
  const told = [0, 0.9, 1, 2.5, 3, 3.9, 4].map((gone) => tempoAt(beat, gone));
  expect(told.map((one) => `${one?.phase} ${one?.count}`)).toEqual([
    "down 1",
    "down 1",
    "down 2",
    "down 3",
    "hold 1",
    "hold 1",
    "down 1",
  ]);
});
