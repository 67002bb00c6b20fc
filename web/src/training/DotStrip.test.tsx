import { fireEvent, render } from "@testing-library/react";
import { describe, expect, test, vi } from "vitest";
import type { Schemas } from "../api/client";
import { DotStrip, MANY } from "./DotStrip";

vi.stubGlobal(
  "ResizeObserver",
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
);

const place = (n: number, of: number) => ({
  rank: n + 1,
  tied: false,
  capped: false,
  strip: 1 - n / (of - 1),
  entry: {
    athlete_id: n,
    name: `Athlete ${n}`,
    display: `${of - n}`,
    order_key: of - n,
    tier: 0,
    track: 0,
    to_verify: null,
  },
});

const found = (count: number, capped = 0) =>
  ({
    ticks: [],
    cut: null,
    sections: [
      {
        tier: 0,
        spread: null,
        places: Array.from({ length: count }, (_, n) => ({
          ...place(n, count),
          capped: n >= count - capped,
        })),
      },
    ],
  }) as unknown as Schemas["StandingsOut"] & { cut: null };

const drawn = (count: number, capped = 0) =>
  render(<DotStrip found={found(count, capped)} tiers={["As written"]} mine={3} />).container;

describe("everyone's result on a line", () => {
  test("as many as fit are a dot each", () => {
    const strip = drawn(MANY);
    expect(strip.querySelectorAll("circle")).toHaveLength(MANY);
    expect(strip.querySelectorAll("rect")).toHaveLength(0);
  });

  test("more are columns in which nobody is lost, the reader's own marked", () => {
    const strip = drawn(200, 7);
    const bins = [...strip.querySelectorAll("rect")];
    expect(strip.querySelectorAll("circle")).toHaveLength(0);
    const held = bins.map((bin) => Number(bin.getAttribute("data-bin")));
    expect(held.reduce((sum, each) => sum + each, 0)).toBe(200);
    // Who was capped stands apart, at the left.
    expect(held[0]).toBe(7);
    expect(strip.querySelectorAll("[data-mine]")).toHaveLength(1);
  });

  test("a column pointed at names who stands in it, and how many more", () => {
    const strip = drawn(200);
    const last = [...strip.querySelectorAll("rect")].at(-1) as Element;
    fireEvent.pointerEnter(last);
    expect(strip.querySelector("text:last-of-type")?.textContent).toBeDefined();
    expect(strip.textContent).toMatch(/192 to 200: Athlete 0, .* and 3 more/);
  });

  test("who was capped stands at the left of the line, not on it, among few as well", () => {
    const strip = drawn(10, 3);
    const line = strip.querySelector("line[x1]:not([y1='10'])");
    const at = [...strip.querySelectorAll("circle")].map((dot) => Number(dot.getAttribute("cx")));
    const begins = Number(
      [...strip.querySelectorAll("g[data-tier] > line")].at(0)?.getAttribute("x1"),
    );
    expect(line).not.toBeNull();
    expect(at.filter((x) => x < begins)).toHaveLength(3);
    expect(at.filter((x) => x >= begins)).toHaveLength(7);
  });

  test("the middle half is drawn from its lower quarter to its upper one", () => {
    const many = found(12);
    Object.assign(many.sections[0] as object, {
      spread: { middle: "6", strip: [0.25, 0.5, 0.75] },
    });
    const strip = render(<DotStrip found={many} tiers={["As written"]} />).container;
    const drawnLine = strip.querySelector("[data-middle] line");
    const [from, to] = ["x1", "x2"].map((end) => Number(drawnLine?.getAttribute(end)));
    const axis = strip.querySelector("g[data-tier] > line");
    const [low, high] = ["x1", "x2"].map((end) => Number(axis?.getAttribute(end)));
    const share = (x: number | undefined) => ((x ?? 0) - (low ?? 0)) / ((high ?? 0) - (low ?? 0));
    expect([share(from), share(to)]).toEqual([expect.closeTo(0.25, 3), expect.closeTo(0.75, 3)]);
  });
});
