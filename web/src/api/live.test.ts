// One stream a page, shared; it knocks again where it was refused.
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
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

/** Locks and channels of a browser, for several pages in one test. */
class Browser {
  private readonly queues = new Map<string, (() => Promise<void>)[]>();
  private readonly channels = new Map<string, Set<{ onmessage?: (event: unknown) => void }>>();

  readonly locks = {
    request: (name: string, options: { signal?: AbortSignal }, work: () => Promise<void>) => {
      const queue = this.queues.get(name) ?? [];
      this.queues.set(name, queue);
      const turn = () => work().then(() => this.next(name, turn));
      options.signal?.addEventListener("abort", () => {
        const at = queue.indexOf(turn);
        if (at > 0) queue.splice(at, 1);
      });
      queue.push(turn);
      if (queue.length === 1) turn();
      return Promise.resolve();
    },
  };

  private next(name: string, turn: () => Promise<void>): void {
    const queue = this.queues.get(name) ?? [];
    queue.splice(queue.indexOf(turn), 1);
    queue[0]?.();
  }

  channel() {
    const channels = this.channels;
    return class {
      onmessage?: (event: unknown) => void;
      constructor(private readonly name: string) {
        if (!channels.has(name)) channels.set(name, new Set());
        channels.get(name)?.add(this);
      }
      postMessage(data: unknown) {
        for (const one of channels.get(this.name) ?? [])
          if (one !== this) one.onmessage?.({ data });
      }
      close() {
        channels.get(this.name)?.delete(this);
      }
    };
  }
}

describe("several pages of one browser", () => {
  /** A page: a module of its own, as in another tab. */
  async function page(handlers: Record<string, (data: unknown) => void>) {
    vi.resetModules();
    const { useLive: own } = await import("./live");
    return renderHook(() => own("/api/live", handlers));
  }
  let visible: "visible" | "hidden";

  beforeEach(() => {
    const browser = new Browser();
    visible = "visible";
    vi.stubGlobal("BroadcastChannel", browser.channel());
    Object.defineProperty(navigator, "locks", { value: browser.locks, configurable: true });
    Object.defineProperty(document, "visibilityState", {
      get: () => visible,
      configurable: true,
    });
  });
  afterEach(() => {
    Object.defineProperty(navigator, "locks", { value: undefined, configurable: true });
    vi.unstubAllGlobals();
  });
  const settle = () => act(() => vi.advanceTimersByTimeAsync(0));
  const hide = async (state: "visible" | "hidden", wait: number) => {
    visible = state;
    document.dispatchEvent(new Event("visibilitychange"));
    await act(() => vi.advanceTimersByTimeAsync(wait));
  };

  test("seven pages open one stream and all of them hear it", async () => {
    const hears = Array.from({ length: 7 }, () => vi.fn());
    for (const day of hears) await page({ day });
    expect(Source.made).toHaveLength(1);
    act(() => made(0).onopen());
    act(() => made(0).say("day", { date: "2026-06-01" }));
    for (const day of hears) expect(day).toHaveBeenCalledTimes(1);
  });

  test("a page that wants what the reading page does not is served as well", async () => {
    const hears = vi.fn();
    await page({ day: () => undefined });
    await page({ score: hears });
    act(() => made(0).say("score", {}));
    expect(hears).toHaveBeenCalledTimes(1);
  });

  test("a page that joins later is told to look anew", async () => {
    const again = vi.fn();
    await page({ again: () => undefined });
    act(() => made(0).onopen());
    const late = await page({ again });
    expect(again).toHaveBeenCalledTimes(1);
    expect(late.result.current).toBe(true);
  });

  test("when the reading page is closed another one reads", async () => {
    const day = vi.fn();
    const first = await page({ day: () => undefined });
    await page({ day });
    first.unmount();
    await settle();
    expect(made(0).closed).toBe(true);
    expect(Source.made).toHaveLength(2);
    act(() => made(1).say("day", {}));
    expect(day).toHaveBeenCalledTimes(1);
  });

  test("a hidden browser lets go after a while, and reads again once it is seen", async () => {
    await page({ day: () => undefined });
    await hide("hidden", 30_000);
    expect(made(0).closed).toBe(false);
    await hide("hidden", 61_000);
    expect(made(0).closed).toBe(true);
    await hide("visible", 0);
    expect(Source.made).toHaveLength(2);
  });
});
