import { describe, expect, it } from "vitest";
import { shift } from "../ui/dates";
import { dayNames } from "./dayNames";
import { fits } from "./Palette";

const THURSDAY = "2026-11-26";

describe("a day that is named", () => {
  it.each([
    ["2026-12-01", "2026-12-01"],
    ["tomorrow", "2026-11-27"],
    ["thu", THURSDAY],
    ["Tuesday", "2026-12-01"],
    ["24 nov", "2026-11-24"],
    ["Nov 24", "2026-11-24"],
    ["3. January", "2027-01-03"],
    ["29 feb", null],
    ["2026-02-30", null],
    ["31 jun", null],
    ["t", null],
    ["push-up", null],
    ["", null],
  ])("%s", (said, day) => {
    expect(dayNames(said, THURSDAY)).toBe(day);
  });
  it("finds every day of a year by its number and month", () => {
    const months = [
      "jan",
      "feb",
      "mar",
      "apr",
      "may",
      "jun",
      "jul",
      "aug",
      "sep",
      "oct",
      "nov",
      "dec",
    ];
    for (let n = -150; n < 150; n++) {
      const day = shift(THURSDAY, n);
      const [, month, date] = day.split("-").map(Number);
      expect(dayNames(`${date} ${months[(month ?? 1) - 1]}`, THURSDAY)).toBe(day);
    }
  });
});

describe("what is sought", () => {
  it("begins words, in any order", () => {
    expect(fits("qui ada", "Ada Quill")).toBe(true);
    expect(fits("uill", "Ada Quill")).toBe(false);
    expect(fits("box ju", "box jump over")).toBe(true);
  });
});
