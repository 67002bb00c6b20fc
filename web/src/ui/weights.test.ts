import { describe, expect, it } from "vitest";
import { keptWeight, shownWeight } from "./weights";

describe("loads in two units", () => {
  it("keeps kilograms and shows what was typed again, to the tenth", () => {
    for (const typed of [0.1, 2.5, 45, 99.9, 135, 225, 405.5, 1000]) {
      for (const unit of ["kg", "lb"] as const) {
        expect(shownWeight(keptWeight(typed, unit), unit)).toBe(typed);
      }
    }
  });
  it("knows the pound of the international agreement of 1959: 0.45359237 kg", () => {
    expect(keptWeight(100, "lb")).toBe(45.359);
    expect(shownWeight(100, "lb")).toBe(220.5);
  });
});
