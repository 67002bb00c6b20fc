import { describe, expect, it } from "vitest";
import { merged, same } from "./merge";

const base = { body_kg: 70, bests: { deadlift: 100, clean: 60 }, notes: "", limits: ["knee"] };

describe("two changes of one thing", () => {
  it("keeps both where they touch different things, also inside one", () => {
    const mine = { ...base, bests: { ...base.bests, deadlift: 105 } };
    const theirs = { ...base, notes: "back soon", bests: { ...base.bests, snatch: 50 } };
    expect(merged(base, mine, theirs)).toEqual({
      ...base,
      notes: "back soon",
      bests: { deadlift: 105, clean: 60, snatch: 50 },
    });
  });
  it("keeps mine where both touch the same, and what I took away stays away", () => {
    const mine = { ...base, body_kg: 71, bests: { deadlift: 100 } };
    const theirs = { ...base, body_kg: 72 };
    expect(merged<object>(base, mine, theirs)).toEqual({ ...mine });
  });
  it("is theirs where I did nothing, and mine where they did nothing", () => {
    const other = { ...base, limits: [] };
    expect(merged<object>(base, base, other)).toEqual(other);
    expect(merged<object>(base, other, base)).toEqual(other);
  });
  it("takes what is not told as nothing", () => {
    expect(same({ a: null }, {})).toBe(true);
    expect(same({ a: [1, { b: 2 }] }, { a: [1, { b: 2 }] })).toBe(true);
    expect(same({ a: [1, 2] }, { a: [2, 1] })).toBe(false);
  });
});
