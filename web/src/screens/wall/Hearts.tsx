// Hearts on the wall, of those who let them be seen: a number, and where it lies to its range.
import { useEffect, useState } from "react";
import styles from "./Hearts.module.css";

export type Tile = {
  name: string;
  class_id: number;
  bpm: number;
  low?: number;
  high?: number;
  where?: "below" | "in" | "above";
};

/** Tiles that are older than this are of nobody's heart any more. */
const STALE_MS = 5000;
/** Beats a minute that the line beside a number spans either side of the range. */
const BEYOND = 30;

/** The tiles of a class as they come; none once nothing is heard. */
export function useHearts(): [Tile[], (data: Record<string, unknown>) => void] {
  const [tiles, set] = useState<Tile[]>([]);
  useEffect(() => {
    if (tiles.length === 0) return;
    const timer = window.setTimeout(() => set([]), STALE_MS);
    return () => window.clearTimeout(timer);
  }, [tiles]);
  return [tiles, (data) => set(data.tiles as Tile[])];
}

/** First names, with as much of the rest as tells two apart. */
export function called(names: readonly string[]): string[] {
  const first = (name: string) => name.split(" ")[0] ?? name;
  return names.map((name) =>
    names.filter((other) => first(other) === first(name)).length > 1 ? name : first(name),
  );
}

const MARKS = { below: "▽", in: "●", above: "▲" };

export function Hearts({ tiles }: { tiles: readonly Tile[] }) {
  if (tiles.length === 0) return null;
  const names = called(tiles.map((tile) => tile.name));
  return (
    <ul className={styles.hearts} aria-label="Hearts">
      {tiles.map(({ name, bpm, low, high, where }, at) => (
        <li key={name} data-where={where}>
          <span>{names[at]}</span>
          <b className="num">
            {bpm}
            {where && <small title={where}> {MARKS[where]}</small>}
          </b>
          {low !== undefined && high !== undefined && (
            <i
              aria-hidden
              style={
                {
                  "--from": share(low, low, high),
                  "--to": share(high, low, high),
                  "--at": share(bpm, low, high),
                } as React.CSSProperties
              }
            />
          )}
        </li>
      ))}
    </ul>
  );
}

function share(bpm: number, low: number, high: number): string {
  const whole = high - low + 2 * BEYOND;
  return `${Math.min(100, Math.max(0, ((bpm - low + BEYOND) / whole) * 100))}%`;
}
