import { expect, test } from "vitest";
import { brief, dayAt, dayNumber, shift, spoken } from "./dates";

test("a date on an axis is the date it was, over the turn of a year and of summer time", () => {
  for (let date = "2025-12-20"; date < "2027-01-10"; date = shift(date, 1)) {
    expect(dayAt(dayNumber(date))).toBe(date);
  }
  expect(dayNumber("2026-03-30") - dayNumber("2026-03-28")).toBe(2);
});

test.each([
  ["2026-12-30", "Wed 30 December", "Wed 30 Dec"],
  ["2027-01-03", "Sun 3 January", "Sun 3 Jan"],
  ["2031-01-03", "Fri 3 January 2031", "Fri 3 Jan 2031"],
  ["2025-12-01", "Mon 1 December 2025", "Mon 1 Dec 2025"],
])("%s has its year where it is far from today", (date, words, short) => {
  const now = Date.parse("2026-12-01T10:00:00");
  expect(spoken(date, now)).toBe(words);
  expect(brief(date, now)).toBe(short);
});
