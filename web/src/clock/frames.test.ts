// A running clock renders what shows it when its face changes, and no more often.
import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../api/client";
import { useDone, usePosition } from "./frames";
import { faceAt, faceKey } from "./play";
import vectors from "./vectors.json";

type Clock = Schemas["ClockOut"];

const script = vectors["a Tabata"].script as unknown as Clock["script"];
const began = 1000;
const stands = { class_id: 1, key: "a", began, held: null, heats: [0], ended: false };
const clock = { ...stands, script } as unknown as Clock;
const seconds = () => Date.now() / 1000;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["Date", "requestAnimationFrame", "cancelAnimationFrame"] });
  vi.setSystemTime(began * 1000 + 250);
});
afterEach(() => {
  vi.useRealTimers();
});

/** The newest frame may be so long ago. */
const FRAME_S = 0.02;
const wait = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

test("five seconds of a clock render its face about five times", async () => {
  let renders = 0;
  const { unmount } = renderHook(() => {
    renders += 1;
    return usePosition(clock, seconds);
  });
  await wait(0);
  const before = renders;
  for (let frame = 0; frame < 100; frame += 1) await wait(50);
  expect(renders - before).toBeGreaterThanOrEqual(5);
  expect(renders - before).toBeLessThanOrEqual(12);
  unmount();
});

test("the position that is rendered shows the same face as the one now", async () => {
  const hook = renderHook(() => usePosition(clock, seconds));
  for (let step = 0; step < 40; step += 1) {
    await wait(170);
    const now = seconds() - began;
    const faces = [now, now - FRAME_S].map((at) => faceKey(clock, at));
    expect(faces).toContain(faceKey(clock, hook.result.current));
  }
  hook.unmount();
});

test("a held clock is rendered where it is held, one that has not begun nowhere", async () => {
  const held = renderHook(() => usePosition({ ...clock, held: 12 }, seconds));
  await wait(50);
  expect(held.result.current).toBe(12);
  const still = { ...clock, began: null, held: null };
  const waiting = renderHook(() => usePosition(still, seconds));
  await wait(50);
  expect(waiting.result.current).toBeNull();
  held.unmount();
  waiting.unmount();
});

test("the bar moves with every frame", async () => {
  const bar = document.createElement("progress");
  const shares: number[] = [];
  const hook = renderHook(() => {
    const ref = useDone<HTMLProgressElement>(clock, seconds, (_, share) => shares.push(share));
    ref.current = bar;
    return ref;
  });
  await wait(500);
  expect(shares.length).toBeGreaterThan(20);
  expect(shares.at(-1)).toBeCloseTo(faceAt(clock, seconds() - began).done, 2);
  hook.unmount();
});
