// What an athlete has done: scores with their places, trends in plain words, weekly load.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { history } from "../api/queries";
import { spoken } from "../ui/dates";
import { Empty, Failed, Waiting } from "../ui/states";
import wordStyles from "../ui/words.module.css";
import styles from "./History.module.css";

const LOAD_PX = 90;
const FIRST = 12;

/** Results over time, best at the top; the line has no axis, the words beside it speak. */
function Spark({ one }: { one: Schemas["BoardTrend"] }) {
  const numbers = one.points.map((point) => (one.kind === "time" ? -point.number : point.number));
  const low = Math.min(...numbers);
  const range = Math.max(...numbers) - low || 1;
  const at = (n: number, i: number) =>
    `${4 + (i / Math.max(1, numbers.length - 1)) * 112},${26 - ((n - low) / range) * 22}`;
  return (
    <svg viewBox="0 0 120 30" width="120" height="30" aria-hidden="true">
      <polyline
        points={numbers.map(at).join(" ")}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
      />
    </svg>
  );
}

export function History({ athlete, tiers }: { athlete: number | null; tiers: readonly string[] }) {
  const found = useQuery(history(athlete));
  const [all, setAll] = useState(false);
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Waiting />;
  const { scores, trends, weeks, load_words } = found.data;
  const most = Math.max(1, ...weeks.map((week) => week.load));
  const now = weeks.at(-1);
  const before = weeks.at(-2);
  return (
    <div className={styles.history}>
      {trends.length > 0 && (
        <>
          <h2>Trends</h2>
          <table>
            <tbody>
              {trends.map((one) => (
                <tr key={`${one.title}/${one.piece}/${one.points[0]?.date}/${one.tier}`}>
                  <th scope="row">
                    {one.piece} <small>{tiers[one.tier]}</small>
                  </th>
                  <td>
                    <Spark one={one} />
                  </td>
                  <td className="num">
                    {one.points[0]?.display} → {one.points.at(-1)?.display}
                  </td>
                  <td>{one.trend.words}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {weeks.length > 0 && (
        <>
          <h2>Weekly load</h2>
          <ul className={`${styles.loads} num`}>
            {weeks.map((week) => (
              <li key={week.monday} title={`week of ${spoken(week.monday)}`}>
                <i style={{ height: `${(week.load / most) * LOAD_PX}px` }} />
                {Math.round(week.load)}
              </li>
            ))}
          </ul>
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
                  <small className={wordStyles.verify}>to verify</small>
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
