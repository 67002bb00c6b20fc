import { expect, test } from "vitest";
import { textChange } from "./textChange";

const TEXTS = ["", "a", "aa", "aba", "# Ebb\n10 burpee", "# Ebb\n12 burpee\n10 sit-up", "baab"];
const pairs = TEXTS.flatMap((one) => TEXTS.map((other) => [one, other] as const));

test.each(pairs)("the change from %j makes %j", (before, after) => {
  const { from, to, insert } = textChange(before, after);
  expect(before.slice(0, from) + insert + before.slice(to)).toBe(after);
});

test("what is the same before and behind is left alone", () => {
  const change = textChange("# Ebb\n10 burpee\n5 sit-up", "# Ebb\n12 burpee\n5 sit-up");
  expect(change).toEqual({ from: 7, to: 8, insert: "2" });
});
