// Reading jots and finding the next place, held against the core's vectors.
import { describe, expect, test } from "vitest";
import { nextPlace, numberOf } from "./roundTimes";
import vectors from "./vectors.json";

describe.each(["reps", "s", "kg"] as const)("in %s", (unit) => {
  test.each(
    Object.entries(vectors.read[unit]),
  )("“%s” is read as the core reads it", (text, number) => {
    expect(numberOf(text, unit)).toBe(number);
  });
});

test("the next place is the core's: a gap is filled before the strip goes on", () => {
  for (const [more, labels, rounds, next] of vectors.next as [
    boolean,
    number,
    Record<string, number>,
    number | null,
  ][]) {
    const strip = { more, labels: Array.from({ length: labels }, () => "r") };
    expect(nextPlace(strip, rounds)).toBe(next);
  }
});
