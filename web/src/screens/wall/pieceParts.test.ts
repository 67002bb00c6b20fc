import { describe, expect, it } from "vitest";
import type { Beat } from "../../clock/play";
import vectors from "../../clock/vectors.json";
import { partAt, partsOf } from "./pieceParts";

const scripts = Object.values(vectors).map(
  (one) => one.script as unknown as { beats: Beat[]; format: string },
);
const of = (name: keyof typeof vectors) =>
  vectors[name].script as unknown as { beats: Beat[]; format: string };

const beat = (id: string, more: Partial<Beat>) =>
  ({ id, kind: "work", lines: [], length_s: 60, round: null, window: null, ...more }) as Beat;

describe("a piece in parts", () => {
  it("counts minutes of an EMOM, and a piece that is all one has none", () => {
    const minutes = partsOf(of("windows at stations").beats, of("windows at stations").format);
    expect(minutes.name).toBe("minute");
    expect(minutes.parts.map((part) => part.number)).toEqual([1, 2, 3, 4]);
    expect(partsOf(of("an open piece with a cap").beats, "for time").parts).toEqual([]);
  });

  it("tells what each part asks for only where they differ", () => {
    const round = (n: number, ...lines: string[]) => beat(`r${n}`, { round: n, lines });
    const scheme = [round(1, "12 burpee", "12 cal row"), round(2, "9 burpee", "9 cal row")];
    expect(partsOf(scheme, "2 rounds").parts.map((part) => part.amounts)).toEqual([
      "12·12 cal",
      "9·9 cal",
    ]);
    const same = [round(1, "10 burpee"), round(2, "10 burpee")];
    expect(partsOf(same, "2 sets")).toMatchObject({
      name: "set",
      parts: [{ amounts: "" }, { amounts: "" }],
    });
  });

  it("goes through its parts in order, and a rest belongs to the part before it", () => {
    for (const { beats, format } of scripts) {
      const { parts } = partsOf(beats, format);
      if (parts.length === 0) continue;
      const at = beats.map((one) => partAt(parts, beats, one));
      expect(at).toEqual([...at].sort((a, b) => a - b));
      expect(at.at(-1)).toBe(parts.length - 1);
      expect(partAt(parts, beats, null)).toBe(-1);
    }
  });
});
