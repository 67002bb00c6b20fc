import { describe, expect, test } from "vitest";
import { differences, inFull, versionsOf } from "./tiers";

const version = (own: object) => ({
  amount: "10",
  movement: "push press",
  side: null,
  tempo: "",
  details: "",
  load: "40/30 kg",
  instead: "",
  note: "",
  ...own,
});

describe("a task tier by tier", () => {
  test("a tier that differs in its load says its load alone", () => {
    const [, scaled, starter] = differences([version({}), version({ load: "30/20 kg" })], 3);
    expect(scaled).toMatchObject({ amount: "", movement: "", load: "30/20 kg", detail: "" });
    expect(Object.values(starter ?? {}).join("")).toBe("");
  });

  test("another movement keeps the amount and takes no load along", () => {
    const [, scaled] = differences([version({}), version({ movement: "ring row", load: "" })], 3);
    expect(scaled).toMatchObject({ amount: "", movement: "ring row", load: "" });
  });

  test("none takes away what stands above", () => {
    const [, scaled] = differences([version({}), version({ load: "" })], 3);
    expect(scaled?.load).toBe("none");
  });

  test("side and tempo are details as they are written", () => {
    const [own] = differences(
      [version({ side: "each side", tempo: "40X0", details: "2 sets" })],
      1,
    );
    expect(own?.detail).toBe("each side, tempo 40X0, 2 sets");
  });

  // Every pair of versions that differ in any of their fields comes back as it was.
  const options = {
    amount: ["10", "8", ""],
    movement: ["push press", "ring row"],
    load: ["40 kg", "30 kg", ""],
    details: ["each side", ""],
    instead: ["10 dip", ""],
    note: ["slowly", ""],
  };
  const all = Object.entries(options).reduce<object[]>(
    (made, [field, values]) =>
      made.flatMap((one) => values.map((value) => ({ ...one, [field]: value }))),
    [{}],
  );
  test.each([
    [0],
    [7],
    [31],
    [all.length - 1],
  ])("what is told is told back, from %i on", (first) => {
    for (const other of all) {
      const both = [version(all[first] ?? {}), version(other)];
      const full = inFull(differences(both, 2));
      const cells = both.map(({ side, tempo, details, ...own }) => ({ ...own, detail: details }));
      expect(full).toEqual(cells);
    }
  });

  test("tiers below the last that says something are not written", () => {
    const rows = differences([version({})], 3);
    expect(versionsOf(rows)).toHaveLength(1);
    expect(versionsOf(rows.with(2, { ...rows[0], load: "20 kg" } as never))).toHaveLength(3);
  });
});
