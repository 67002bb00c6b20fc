// One stream a page, shared; it knocks again where it was refused.
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useLive } from "./live";

class Source {
  static made: Source[] = [];
  static readonly CLOSED = 2;
  readyState = 1;
  closed = false;
  onopen: () => void = () => undefined;
  onerror: () => void = () => undefined;
  private readonly heard = new Map<string, (event: { data: string }) => void>();
  constructor(readonly url: string) {
    Source.made.push(this);
  }
  addEventListener(name: string, hear: (event: { data: string }) => void) {
    this.heard.set(name, hear);
  }
  close() {
    this.closed = true;
  }
  say(name: string, data: unknown) {
    this.heard.get(name)?.({ data: JSON.stringify(data) });
  }
}

const made = (at: number) => Source.made[at] as Source;

beforeEach(() => {
  Source.made = [];
  vi.stubGlobal("EventSource", Source);
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

test("two that listen share one stream, each hears its own, and the last one closes it", () => {
  const days = vi.fn();
  const scores = vi.fn();
  const first = renderHook(() => useLive("/api/live", { day: days }));
  const second = renderHook(() => useLive("/api/live", { score: scores }));
  expect(Source.made).toHaveLength(1);
  made(0).say("day", { date: "2026-06-01" });
  made(0).say("score", {});
  expect(days).toHaveBeenCalledExactlyOnceWith({ date: "2026-06-01" });
  expect(scores).toHaveBeenCalledTimes(1);
  first.unmount();
  expect(made(0).closed).toBe(false);
  second.unmount();
  expect(made(0).closed).toBe(true);
});

test("a refused stream is asked for again, and is heard as before", () => {
  const days = vi.fn();
  const hook = renderHook(() => useLive("/api/live", { day: days }));
  act(() => made(0).onopen());
  expect(hook.result.current).toBe(true);
  made(0).readyState = Source.CLOSED;
  act(() => made(0).onerror());
  expect(hook.result.current).toBe(false);
  act(() => vi.advanceTimersByTime(2000));
  expect(Source.made).toHaveLength(2);
  act(() => made(1).onopen());
  made(1).say("day", {});
  expect(hook.result.current).toBe(true);
  expect(days).toHaveBeenCalledTimes(1);
});

test("a page that is left does not knock again", () => {
  const hook = renderHook(() => useLive("/api/live", { day: () => undefined }));
  made(0).readyState = Source.CLOSED;
  act(() => made(0).onerror());
  hook.unmount();
  vi.advanceTimersByTime(5000);
  expect(Source.made).toHaveLength(1);
});
