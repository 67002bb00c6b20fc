import { fireEvent, render } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { DotStrip, MANY } from "./DotStrip";

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
});
