// Laps by heat: a round's time is the clock's, less its heat's start and the rounds before.
import { act, renderHook } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { roundNow } from "./moment";

const clock = { began: 1000, held: null, heats: [0, 90] };

test("a lap counts from its own heat's start", () => {
  expect(roundNow(clock, 1, () => 1130, [60])).toBe(70);
  expect(roundNow(clock, 2, () => 1130, [])).toBe(40);
});

test("a heat that has not begun has no lap", () => {
  expect(roundNow(clock, 3, () => 1130, [])).toBe(0);
});

test("a held clock laps at where it is held", () => {
  expect(roundNow({ ...clock, began: null, held: 100 }, 1, () => 9999, [30])).toBe(70);
});

test("the offset is taken from the middle of the quickest round trip", async () => {
  vi.useFakeTimers();
  vi.setSystemTime(1_000_000);
  vi.resetModules();
  // The server's clock is ten seconds ahead; the way there and back takes what is said here.
  const ways = [0.8, 0.2, 1.4, 0.4, 0.6, 1.0];
  vi.doMock("../api/client", () => ({
    api: {
      GET: async () => {
        const way = ways.shift() ?? 2;
        vi.setSystemTime(Date.now() + way * 500);
        const now = Date.now() / 1000 + 10;
        vi.setSystemTime(Date.now() + way * 500);
        return { data: { now } };
      },
    },
  }));
  const { useMoment: own } = await import("./moment");
  const hook = renderHook(() => own());
  await act(() => vi.advanceTimersByTimeAsync(0));
  const told = (hook.result.current as () => number)();
  expect(told - Date.now() / 1000).toBeCloseTo(10, 3);
  hook.unmount();
  vi.doUnmock("../api/client");
  vi.useRealTimers();
});
