// Everyone's result on one line, best to the right; the reader's own dot is ringed and named.
import type { Schemas } from "../api/client";
import styles from "./DotStrip.module.css";

type Section = Schemas["Section"];

const WIDTH = 720;
const MARGIN = 16;
const ROW = 36;
const RADIUS = 5;

/** Dots that would lie on each other are stacked upwards. */
function stacked(section: Section) {
  const taken: { x: number; level: number }[] = [];
  return section.places.map((place) => {
    const x = MARGIN + place.strip * (WIDTH - 2 * MARGIN);
    let level = 0;
    while (taken.some((t) => t.level === level && Math.abs(t.x - x) < 2 * RADIUS)) level += 1;
    taken.push({ x, level });
    return { place, x, level };
  });
}

export function DotStrip({
  sections,
  tiers,
  mine,
}: {
  sections: readonly Section[];
  tiers: readonly string[];
  mine?: number;
}) {
  const all = sections.flatMap((section) => section.places);
  if (all.length < 2) return null;
  const low = all.reduce((a, b) => (b.entry.order_key < a.entry.order_key ? b : a));
  const best = all.reduce((a, b) => (b.entry.order_key > a.entry.order_key ? b : a));
  const rows = sections.map((section) => {
    const dots = stacked(section);
    const height = ROW + Math.max(0, ...dots.map((dot) => dot.level)) * 2 * RADIUS;
    return { section, dots, height };
  });
  let y = 0;
  return (
    <figure className={styles.strip}>
      <svg
        viewBox={`0 0 ${WIDTH} ${rows.reduce((sum, row) => sum + row.height, 0) + 22}`}
        role="img"
        aria-label={`Results of ${all.length} athletes from ${low.entry.display} to ${best.entry.display}`}
      >
        {rows.map(({ section, dots, height }) => {
          y += height;
          const base = y - 6;
          return (
            <g key={section.tier} data-tier={section.tier}>
              <line x1={MARGIN} x2={WIDTH - MARGIN} y1={base} y2={base} className={styles.line} />
              <text x={MARGIN} y={base - ROW + 20} className={styles.tier}>
                {section.tier === null ? "All tiers" : tiers[section.tier]}
              </text>
              {section.spread && (
                <g className={styles.spread} data-middle={section.spread.middle}>
                  <line
                    x1={MARGIN + (section.spread.strip[0] ?? 0) * (WIDTH - 2 * MARGIN)}
                    x2={MARGIN + (section.spread.strip[2] ?? 0) * (WIDTH - 2 * MARGIN)}
                    y1={base + 3}
                    y2={base + 3}
                  />
                  <path
                    d={`M${MARGIN + (section.spread.strip[1] ?? 0) * (WIDTH - 2 * MARGIN)} ${base - 2}v8`}
                  />
                </g>
              )}
              {dots.map(({ place, x, level }) => (
                <circle
                  key={place.entry.athlete_id}
                  cx={x}
                  cy={base - RADIUS - 1 - level * 2 * RADIUS}
                  r={place.entry.athlete_id === mine ? RADIUS + 1.5 : RADIUS - 0.5}
                  className={styles.dot}
                  data-mine={place.entry.athlete_id === mine || undefined}
                >
                  <title>{`${place.entry.name} ${place.entry.display}`}</title>
                </circle>
              ))}
            </g>
          );
        })}
        <text x={MARGIN} y={y + 16} className={styles.end}>
          {low.entry.display}
        </text>
        <text x={WIDTH - MARGIN} y={y + 16} textAnchor="end" className={styles.end}>
          {best.entry.display}
        </text>
      </svg>
    </figure>
  );
}
