import { expect, test } from "vitest";
import { dayAt, dayNumber, shift } from "./dates";

test("a date on an axis is the date it was, over the turn of a year and of summer time", () => {
  for (let date = "2025-12-20"; date < "2027-01-10"; date = shift(date, 1)) {
    expect(dayAt(dayNumber(date))).toBe(date);
  }
  expect(dayNumber("2026-03-30") - dayNumber("2026-03-28")).toBe(2);
});
