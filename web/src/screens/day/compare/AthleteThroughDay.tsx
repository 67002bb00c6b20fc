// One athlete through every piece of the day, and through every date of the piece looked at.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { history } from "../../../api/queries";
import styles from "./AthleteThroughDay.module.css";

const BoardChart = lazy(() =>
  import("../../../training/Charts").then((m) => ({ default: m.BoardChart })),
);

export function AthleteThroughDay({
  athlete,
  date,
  piece,
  onPiece,
  onEnd,
}: {
  athlete: number;
  date: string;
  piece: Schemas["SheetPiece"];
  onPiece: (key: string) => void;
  onEnd: () => void;
}) {
  const found = useQuery(history(athlete));
  if (!found.data) return null;
  const { name, scores, trends } = found.data;
  const today = scores.filter((one) => one.date === date);
  const tier = today.find((one) => one.piece_key === piece.key)?.tier;
  const trend = trends.find(
    (one) => one.piece === piece.title && (tier === undefined || one.tier === tier),
  );
  return (
    <section className={styles.followed} aria-label={`Following ${name}`}>
      <header>
        <h3>
          <Link to={`/athletes/${athlete}`}>{name}</Link>
        </h3>
        <Button size="compact-sm" variant="subtle" onClick={onEnd}>
          Follow no more
        </Button>
      </header>
      {today.length === 0 && <p>No score on this day.</p>}
      <ul>
        {today.map((one) => (
          <li key={one.piece_key}>
            <button
              type="button"
              aria-pressed={one.piece_key === piece.key}
              onClick={() => onPiece(one.piece_key)}
            >
              {one.piece} <b className="num">{one.display}</b>{" "}
              {one.rank && (
                <small>
                  {one.rank} of {one.of}
                </small>
              )}
            </button>
          </li>
        ))}
      </ul>
      {trend && (
        <>
          <p>
            {trend.points.map((point) => point.display).join(" → ")}: {trend.trend.words}
          </p>
          <div className={styles.chart} aria-hidden>
            <Suspense>
              <BoardChart board={trend} />
            </Suspense>
          </div>
        </>
      )}
    </section>
  );
}
