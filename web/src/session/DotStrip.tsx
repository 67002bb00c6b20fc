// Everyone's result on one line, best to the right; the reader's own dot is ringed and named.
import { useState } from "react";
import type { Schemas } from "../api/client";
import styles from "./DotStrip.module.css";

type Standings = Omit<Schemas["StandingsOut"], "cut"> & { cut: readonly number[] | null };
type Section = Schemas["Section"];
type Place = Section["places"][number];

const WIDTH = 900;
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

/** Where the line is not drawn to scale: two strokes across it. */
const strokes = (x: number, y: number) => `M${x - 4} ${y + 5}l5 -10M${x + 1} ${y + 5}l5 -10`;

export function DotStrip({
  found,
  tiers,
  mine,
}: {
  found: Standings;
  tiers: readonly string[];
  mine?: number;
}) {
  const [named, setNamed] = useState<number | null>(null);
  const { sections, ticks } = found;
  const [from, to] = found.cut ?? [];
  const broken = from !== undefined && to !== undefined ? (from + to) / 2 : null;
  const all = sections.flatMap((section) => section.places);
  if (all.length < 2) return null;
  const low = all.reduce((a, b) => (b.entry.order_key < a.entry.order_key ? b : a));
  const best = all.reduce((a, b) => (b.entry.order_key > a.entry.order_key ? b : a));
  const capped = all.some((place) => place.capped);
  const left = MARGIN + (capped ? CAP : 0);
  const on = (share: number) => left + share * (WIDTH - MARGIN - left);
  const x = (place: Place) => (place.capped ? MARGIN + RADIUS : on(place.strip));
  const rows = sections.map((section) => {
    const dots = stacked(section, x);
    const height = ROW + Math.max(0, ...dots.map((dot) => dot.level)) * 2 * RADIUS;
    return { section, dots, height };
  });
  const whole = rows.reduce((sum, row) => sum + row.height, 0);
  let y = 0;
  return (
    <figure className={styles.strip}>
      <svg
        viewBox={`0 0 ${WIDTH} ${whole + ENDS}`}
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
        {rows.map(({ section, dots, height }) => {
          y += height;
          const base = y - 6;
          return (
            <g key={section.tier} data-tier={section.tier}>
              <line x1={left} x2={WIDTH - MARGIN} y1={base} y2={base} className={styles.line} />
              {broken !== null && (
                <path d={strokes(on(broken), base)} className={styles.cut} data-cut />
              )}
              <text x={MARGIN} y={base - ROW + 20} className={styles.tier}>
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
                const words = `${name} ${display}${to_verify ? ", to verify" : ""}`;
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
                        x={Math.min(Math.max(x, wide / 2), WIDTH - wide / 2)}
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
