// What an athlete has done: scores with their places, trends in plain words, weekly load.
import { Button, VisuallyHidden } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import type { Schemas } from "../api/client";
import { history } from "../api/queries";
import { spoken } from "../ui/dates";
import { Empty, Failed, Waiting } from "../ui/states";
import wordStyles from "../ui/words.module.css";
import { HeartTimes } from "./HeartTimes";
import styles from "./History.module.css";

const BoardChart = lazy(() => import("./Charts").then((m) => ({ default: m.BoardChart })));
const LoadChart = lazy(() => import("./Charts").then((m) => ({ default: m.LoadChart })));

const FIRST = 12;
const BOARDS = 4;

/** The line in a word or two: where it goes, and where it stands. */
function Board({ one, tier }: { one: Schemas["BoardTrend"]; tier?: string }) {
  const [first, last] = [one.points[0], one.points.at(-1)];
  return (
    <section className={styles.board} aria-label={one.piece}>
      <h3>
        {one.piece} <small>{tier}</small>
      </h3>
      <p>
        <b className="num">
          {first?.display} → {last?.display}
        </b>{" "}
        {one.trend.words}
      </p>
      <div className={styles.chart} aria-hidden>
        <Suspense>
          <BoardChart board={one} />
        </Suspense>
      </div>
      <VisuallyHidden>
        <table>
          <tbody>
            {one.points.map((point) => (
              <tr key={point.date}>
                <th scope="row">{spoken(point.date)}</th>
                <td>{point.display}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </VisuallyHidden>
    </section>
  );
}

export function History({ athlete, tiers }: { athlete: number | null; tiers: readonly string[] }) {
  const found = useQuery(history(athlete));
  const [all, setAll] = useState(false);
  const [everyBoard, setEveryBoard] = useState(false);
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Waiting />;
  const { scores, trends, weeks, load_words } = found.data;
  const now = weeks.at(-1);
  const before = weeks.at(-2);
  return (
    <div className={styles.history}>
      {trends.length > 0 && (
        <>
          <h2>Trends</h2>
          <div className={styles.boards}>
            {trends.slice(0, everyBoard ? undefined : BOARDS).map((one) => (
              <Board
                key={`${one.title}/${one.piece}/${one.points[0]?.date}/${one.tier}`}
                one={one}
                tier={tiers[one.tier]}
              />
            ))}
          </div>
          {trends.length > BOARDS && (
            <Button variant="subtle" onClick={() => setEveryBoard(!everyBoard)}>
              {everyBoard ? "Only the latest" : `All ${trends.length} boards`}
            </Button>
          )}
        </>
      )}
      {weeks.length > 0 && (
        <>
          <h2>Weekly load</h2>
          <div className={styles.chart} aria-hidden>
            <Suspense>
              <LoadChart weeks={weeks} />
            </Suspense>
          </div>
          <VisuallyHidden>
            <ul>
              {weeks.map((week) => (
                <li key={week.monday}>
                  Week of {spoken(week.monday)}: {Math.round(week.load)}
                </li>
              ))}
            </ul>
          </VisuallyHidden>
          {now && (
            <p>
              This week {Math.round(now.load)}. {now.words}
              {before && (
                <>
                  {" "}
                  The week before: {Math.round(before.load)}
                  {before.monotony !== null && `, monotony ${before.monotony.toFixed(1)}`}
                  {before.strain !== null && `, strain ${Math.round(before.strain)}`}.{" "}
                  {before.words}
                </>
              )}
            </p>
          )}
          <p>
            <small>{load_words}</small>
          </p>
        </>
      )}
      {athlete === null && <HeartTimes />}
      <h2>Scores</h2>
      {scores.length === 0 && (
        <Empty>
          <p>No score yet.</p>
        </Empty>
      )}
      <table>
        <tbody>
          {scores.slice(0, all ? undefined : FIRST).map((one) => (
            <tr key={`${one.date}/${one.piece_key}`}>
              <td className="num">{spoken(one.date)}</td>
              <th scope="row">
                {one.piece} <small>{tiers[one.tier]}</small>
              </th>
              <td className="num">
                <b>{one.display}</b>
                {one.standing !== "fine" && one.standing !== "verified" && (
                  <small className={wordStyles.verify}>needs checking</small>
                )}
              </td>
              <td>
                {one.rank ? `place ${one.rank} of ${one.of}` : ""}
                {one.pacing && <small> · {one.pacing}</small>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {scores.length > FIRST && (
        <Button variant="subtle" onClick={() => setAll(!all)}>
          {all ? "Only the newest" : `All ${scores.length} scores`}
        </Button>
      )}
    </div>
  );
}
