import { expect, test } from "vitest";
import { pacing } from "./splits";

test.each([
  [[], ""],
  [[100, 100], ""],
  [[100, 100, 105], "steady"],
  [[100, 104, 120], "fading"],
  [[100, 100, 140, 101], "steady"],
  [[120, 110, 95], "quicker"],
  [[0, 0, 90], ""],
])("rounds of %s go %s", (rounds, word) => {
  expect(pacing(rounds)).toBe(word);
});
