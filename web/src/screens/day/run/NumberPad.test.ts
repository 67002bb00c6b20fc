import { describe, expect, it } from "vitest";
import { stepped } from "./NumberPad";

describe("a step on the pad", () => {
  it("adds seconds to a time that was typed as minutes and seconds", () => {
    expect(stepped("s", "130", 0, 30)).toBe("200");
    expect(stepped("s", "45", 0, 30)).toBe("115");
    expect(stepped("s", "", 61, -1)).toBe("100");
    expect(stepped("s", "", 3, -5)).toBe("0");
    expect(stepped("s", "1005", 0, -30)).toBe("935");
  });
  it("adds reps and kilograms to what was typed, else to what stood there", () => {
    expect(stepped("reps", "12", 5, 5)).toBe("17");
    expect(stepped("reps", "", 5, 1)).toBe("6");
    expect(stepped("kg", "62.5", 0, 2.5)).toBe("65");
    expect(stepped("kg", "", 60, -100)).toBe("0");
  });
});
