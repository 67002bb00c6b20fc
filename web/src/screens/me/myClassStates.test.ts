import { expect, test } from "vitest";
import { type ClassPlaces, mineOf, ordinal, standOf } from "./myClassStates";

const HALL: ClassPlaces = {
  start: "12:15:00",
  size: 12,
  coming: 5,
  mine: "no",
  cancelled: false,
  over: false,
};

test.each([
  [{}, false, "free"],
  [{ coming: 12 }, false, "full"],
  [{ coming: 12, mine: "coming" as const }, false, "booked"],
  [{ coming: 12, mine: "waiting" as const }, false, "waiting"],
  [{ over: true }, false, "over"],
  [{ over: true, mine: "coming" as const }, false, "booked"],
  [{ over: true }, true, "checked in"],
  [{ cancelled: true, mine: "coming" as const }, false, "cancelled"],
])("%o, checked in %s: %s", (change, checkedIn, stand) => {
  expect(standOf({ ...HALL, ...change }, checkedIn)).toBe(stand);
});

test("the class I am in comes before one with a free place, and that before a full one", () => {
  const stands = (...all: Parameters<typeof mineOf>[0][number]["stand"][]) =>
    mineOf(all.map((stand) => ({ stand })))?.stand;
  expect(stands("free", "booked", "full")).toBe("booked");
  expect(stands("over", "full", "free")).toBe("free");
  expect(stands("over", "cancelled")).toBe("over");
  expect(stands("cancelled")).toBe("cancelled");
  expect(mineOf([])).toBeUndefined();
});

test.each([
  [1, "1st"],
  [2, "2nd"],
  [3, "3rd"],
  [11, "11th"],
  [22, "22nd"],
])("%i is %s", (number, said) => expect(ordinal(number)).toBe(said));
