// Everyone's result on one line, best to the right; the reader's own dot is ringed and named.
import { useElementSize } from "@mantine/hooks";
import { useState } from "react";
import type { Schemas } from "../api/client";
import styles from "./DotStrip.module.css";

export type Found = Omit<Schemas["StandingsOut"], "cut"> & { cut: readonly number[] | null };
type Section = Schemas["Section"];
type Place = Section["places"][number];

/** Width in px until the page has told its own. */
const USUAL = 900;
/** Room that the words under a tick need. */
const TICK = 62;
const MARGIN = 16;
/** Room at the left for those who were stopped by the cap: a cap is no time. */
const CAP = 70;
const ROW = 36;
const RADIUS = 5;
const ENDS = 22;
/** Letters of a name, about, for what fits beside its dot. */
const LETTER = 6.2;

/** Dots that would lie on each other are stacked upwards. */
function stacked(section: Section, x: (place: Place) => number) {
  const taken: { x: number; level: number }[] = [];
  return section.places.map((place) => {
    const at = x(place);
    let level = 0;
    while (taken.some((t) => t.level === level && Math.abs(t.x - at) < 2 * RADIUS)) level += 1;
    taken.push({ x: at, level });
    return { place, x: at, level };
  });
}

/** The ticks that have room for their words beside one another. */
function apart<T>(ticks: readonly T[], x: (tick: T) => number): T[] {
  const out: T[] = [];
  for (const tick of ticks) {
    const last = out.at(-1);
    if (last === undefined || Math.abs(x(tick) - x(last)) >= TICK) out.push(tick);
  }
  return out;
}

/** Where the line is not drawn to scale: two strokes across it. */
const strokes = (x: number, y: number) => `M${x - 4} ${y + 5}l5 -10M${x + 1} ${y + 5}l5 -10`;

/** More than these in a row are told by columns: dots would grow into a wall. */
export const MANY = 30;
const BINS = 24;
const TALLEST = 64;
const NAMES = 6;

interface Bin {
  places: Place[];
  x: number;
  width: number;
}

/** Columns of equal width along the line; who was capped stands in one apart. */
function binned(places: readonly Place[], left: number, whole: number): Bin[] {
  const width = (whole - MARGIN - left) / BINS;
  const bins = Array.from({ length: BINS }, (_, at) => ({
    places: [] as Place[],
    x: left + at * width,
    width,
  }));
  const capped = { places: [] as Place[], x: MARGIN, width };
  for (const place of places) {
    const at = Math.min(BINS - 1, Math.floor(place.strip * BINS));
    (place.capped ? capped : bins[at])?.places.push(place);
  }
  return [capped, ...bins].filter((bin) => bin.places.length > 0);
}

function Columns({
  bins,
  base,
  tall,
  width,
  mine,
}: {
  bins: readonly Bin[];
  base: number;
  tall: number;
  /** Of the strip. */
  width: number;
  mine?: number;
}) {
  const [named, setNamed] = useState<number | null>(null);
  const shown = bins.find((bin) => bin.x === named);
  const names = shown?.places.slice(0, NAMES).map((place) => place.entry.name) ?? [];
  const more = (shown?.places.length ?? 0) - names.length;
  const ends = [shown?.places.at(-1)?.entry.display, shown?.places[0]?.entry.display];
  const words = `${[...new Set(ends)].join(" to ")}: ${names.join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
  const wide = words.length * LETTER;
  return (
    <>
      {bins.map((bin) => {
        const height = Math.max(3, (bin.places.length / tall) * TALLEST);
        return (
          <rect
            key={bin.x}
            className={styles.dot}
            data-bin={bin.places.length}
            data-mine={bin.places.some((place) => place.entry.athlete_id === mine) || undefined}
            x={bin.x + 1}
            width={bin.width - 2}
            y={base - height}
            height={height}
            onPointerEnter={() => setNamed(bin.x)}
            onPointerDown={() => setNamed(bin.x)}
            onPointerLeave={(event) => event.pointerType === "mouse" && setNamed(null)}
          />
        );
      })}
      {shown && (
        <text
          className={styles.name}
          x={Math.min(Math.max(shown.x, wide / 2), width - wide / 2)}
          y={base - TALLEST - 4}
          textAnchor="middle"
        >
          {words}
        </text>
      )}
    </>
  );
}

export function DotStrip({
  found,
  tiers,
  mine,
}: {
  found: Found;
  tiers: readonly string[];
  mine?: number;
}) {
  const [named, setNamed] = useState<number | null>(null);
  const size = useElementSize();
  const width = size.width || USUAL;
  const { sections } = found;
  const [from, to] = found.cut ?? [];
  const broken = from !== undefined && to !== undefined ? (from + to) / 2 : null;
  const all = sections.flatMap((section) => section.places);
  if (all.length < 2) return null;
  const low = all.reduce((a, b) => (b.entry.order_key < a.entry.order_key ? b : a));
  const best = all.reduce((a, b) => (b.entry.order_key > a.entry.order_key ? b : a));
  const capped = all.some((place) => place.capped);
  const left = MARGIN + (capped ? CAP : 0);
  const on = (share: number) => left + share * (width - MARGIN - left);
  const x = (place: Place) => (place.capped ? MARGIN + RADIUS : on(place.strip));
  const rows = sections.map((section) => {
    if (section.places.length > MANY) {
      return {
        section,
        dots: [],
        bins: binned(section.places, left, width),
        height: ROW + TALLEST,
      };
    }
    const dots = stacked(section, x);
    const height = ROW + Math.max(0, ...dots.map((dot) => dot.level)) * 2 * RADIUS;
    return { section, dots, bins: [], height };
  });
  const ticks = apart(found.ticks, (tick) => on(tick.at));
  const tall = Math.max(1, ...rows.flatMap((row) => row.bins.map((bin) => bin.places.length)));
  const whole = rows.reduce((sum, row) => sum + row.height, 0);
  let y = 0;
  return (
    <figure className={styles.strip} ref={size.ref}>
      <svg
        viewBox={`0 0 ${width} ${whole + ENDS}`}
        role="img"
        aria-label={`Results of ${all.length} athletes from ${low.entry.display} to ${best.entry.display}; the table below names them`}
      >
        {ticks.map((tick) => (
          <g key={tick.words} className={styles.tick}>
            <line x1={on(tick.at)} x2={on(tick.at)} y1={ROW - 26} y2={whole} />
            <text x={on(tick.at)} y={whole + 16} textAnchor="middle">
              {tick.words}
            </text>
          </g>
        ))}
        {capped && (
          <text x={MARGIN} y={whole + 16} className={styles.end}>
            capped
          </text>
        )}
        {rows.map(({ section, dots, bins, height }) => {
          y += height;
          const base = y - 6;
          return (
            <g key={section.tier} data-tier={section.tier}>
              <line x1={left} x2={width - MARGIN} y1={base} y2={base} className={styles.line} />
              {broken !== null && (
                <path d={strokes(on(broken), base)} className={styles.cut} data-cut />
              )}
              <Columns bins={bins} base={base} tall={tall} width={width} mine={mine} />
              <text x={MARGIN} y={y - height + 14} className={styles.tier}>
                {section.tier === null ? "All tiers" : tiers[section.tier]}
              </text>
              {section.spread && (
                <g className={styles.spread} data-middle={section.spread.middle}>
                  <line
                    x1={on(section.spread.strip[0] ?? 0)}
                    x2={on(section.spread.strip[2] ?? 0)}
                    y1={base + 3}
                    y2={base + 3}
                  />
                  <path d={`M${on(section.spread.strip[1] ?? 0)} ${base - 2}v8`} />
                </g>
              )}
              {dots.map(({ place, x, level }) => {
                const { athlete_id: id, name, display, to_verify } = place.entry;
                const cy = base - RADIUS - 1 - level * 2 * RADIUS;
                const words = `${name} ${display}${to_verify ? ", needs checking" : ""}`;
                const wide = words.length * LETTER;
                return (
                  <g key={id}>
                    <circle
                      cx={x}
                      cy={cy}
                      r={id === mine ? RADIUS + 1.5 : RADIUS - 0.5}
                      className={styles.dot}
                      data-mine={id === mine || undefined}
                      data-doubted={Boolean(to_verify) || undefined}
                      onPointerEnter={() => setNamed(id)}
                      onPointerDown={() => setNamed(id)}
                      onPointerLeave={(event) => event.pointerType === "mouse" && setNamed(null)}
                    />
                    {(named === id || id === mine) && (
                      <text
                        className={styles.name}
                        x={Math.min(Math.max(x, wide / 2), width - wide / 2)}
                        y={cy - RADIUS - 4}
                        textAnchor="middle"
                      >
                        {words}
                      </text>
                    )}
                  </g>
                );
              })}
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
