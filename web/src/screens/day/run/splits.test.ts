import { expect, test } from "vitest";
import { pacing } from "./splits";
import vectors from "./vectors.json";

test.each(vectors as [number[], string | null][])("rounds of %s go %s", (rounds, verdict) => {
  expect(pacing(rounds)).toBe(verdict);
});
