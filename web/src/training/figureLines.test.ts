import { expect, test } from "vitest";
import { boxOf, type Cycle, keyTimes, momentAt, strokes } from "./figureLines";

const joints = (y: number) => {
  const at: Record<string, [number, number]> = { head: [0, y + 1.6] };
  for (const side of ["left", "right"]) {
    at[`shoulder_${side}`] = [0, y + 1.4];
    at[`elbow_${side}`] = [0, y + 1.1];
    at[`wrist_${side}`] = [0, y + 0.85];
    at[`hip_${side}`] = [0, y + 0.93];
    at[`knee_${side}`] = [0, y + 0.5];
    at[`ankle_${side}`] = [0, y + 0.07];
    at[`toe_${side}`] = [0.2, y];
  }
  return at;
};
const cycle: Cycle = {
  movement: "hop",
  stature_m: 1.75,
  view: "side",
  cycle_s: 2,
  turning: "up",
  scene: [],
  faults: [],
  frames: [
    { t_s: 0, key: "down", joints: joints(0), objects: [] },
    { t_s: 1, key: "up", joints: joints(0.4), objects: [] },
    { t_s: 2, key: "down", joints: joints(0), objects: [] },
  ],
};

test("between two frames everything moves evenly, and the end is the beginning again", () => {
  expect(momentAt(cycle, 0.5).joints.head?.[1]).toBeCloseTo(1.8);
  expect(momentAt(cycle, 1).key).toBe("up");
  expect(momentAt(cycle, 2.5).joints.head?.[1]).toBeCloseTo(1.8);
  expect(momentAt(cycle, -0.5).joints.head?.[1]).toBeCloseTo(1.8);
});

test("key poses come once a cycle, each at its time", () => {
  expect(keyTimes(cycle)).toEqual([
    { key: "down", t_s: 0 },
    { key: "up", t_s: 1 },
  ]);
});

test("the side view sets the far limbs apart, the front view has none", () => {
  const side = strokes(joints(0), "side");
  expect(side.filter((each) => each.far).map((each) => each.id)).toContain("thigh-left");
  expect(side.some((each) => each.far && each.id.endsWith("right"))).toBe(false);
  expect(strokes(joints(0), "front").every((each) => !each.far)).toBe(true);
  expect(side.every((each) => !each.d.includes("NaN"))).toBe(true);
});

test("the picture holds all of the motion", () => {
  const [left = 0, top = 0, width = 0, height = 0] = boxOf(cycle.frames, []).split(" ").map(Number);
  expect(left).toBeLessThan(0);
  expect(left + width).toBeGreaterThan(20);
  expect(top).toBeLessThan(-200);
  expect(top + height).toBeGreaterThan(0);
});
