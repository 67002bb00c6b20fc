// Weeks seen together: patterns week by week, what came and what has not, loads, retests due.
import { SegmentedControl } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { brief } from "../../ui/dates";
import { Failed, Waiting } from "../../ui/states";
import styles from "./Season.module.css";

type SeasonOut = Schemas["Season"];

/** So many of a list are shown; the others are counted. */
const SHOWN = 14;

function Patterns({ season }: { season: SeasonOut }) {
  const mondays = season.patterns[0]?.weeks ?? [];
  return (
    <table className={styles.patterns}>
      <caption>Days a week with each pattern, and hard ones among them</caption>
      <thead>
        <tr>
          <th scope="col">Pattern</th>
          {mondays.map((week) => (
            <th scope="col" key={week.monday}>
              <Link to={`/week/${week.monday}`}>{brief(week.monday).replace(/^\w+ /, "")}</Link>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {season.patterns.map(({ pattern, weeks }) => (
          <tr key={pattern}>
            <th scope="row">{pattern}</th>
            {weeks.map((week) => (
              <td key={week.monday} data-some={week.some > 0} data-hard={Math.min(week.hard, 3)}>
                {week.some > 0 && (
                  <span className="num">
                    {week.some}
                    {week.hard > 0 && <b> {week.hard} hard</b>}
                  </span>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Names(props: {
  title: string;
  none: string;
  all: readonly { name: string; about: string; to: string }[];
}) {
  const over = props.all.length - SHOWN;
  return (
    <section aria-label={props.title}>
      <h3>{props.title}</h3>
      {props.all.length === 0 && <p>{props.none}</p>}
      <ul>
        {props.all.slice(0, SHOWN).map((one) => (
          <li key={one.name}>
            <Link to={one.to}>{one.name}</Link> <small className="num">{one.about}</small>
          </li>
        ))}
      </ul>
      {over > 0 && <p>and {over} more</p>}
    </section>
  );
}

const movement = (name: string) => `/movements/${encodeURIComponent(name)}`;

export function Season({ date }: { date: string }) {
  const [weeks, setWeeks] = useState<"4" | "13">("4");
  const found = useQuery({
    queryKey: keys.season(date, weeks),
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/week/{date}/season", {
          signal,
          params: { path: { date }, query: { weeks: weeks === "4" ? 4 : 13 } },
        }),
      ),
  });
  const season = found.data;
  return (
    <section className={styles.season} aria-label="The weeks before">
      <header>
        <h2>The weeks up to this one</h2>
        <SegmentedControl
          aria-label="How many weeks"
          value={weeks}
          onChange={(value) => setWeeks(value as "4" | "13")}
          data={[
            { value: "4", label: "4 weeks" },
            { value: "13", label: "13 weeks" },
          ]}
        />
      </header>
      {found.error && <Failed error={found.error} retry={() => found.refetch()} />}
      {found.isPending && <Waiting />}
      {season && (
        <>
          <div className={styles.wide}>
            <Patterns season={season} />
          </div>
          <div className={styles.lists}>
            <Names
              title="Most frequent"
              none="Nothing is written in these weeks."
              all={season.often.map((one) => ({
                name: one.movement,
                about: `${one.days === 1 ? "1 day" : `${one.days} days`}, last ${brief(one.last)}`,
                to: movement(one.movement),
              }))}
            />
            <Names
              title="Not recently"
              none="Everything of before came again."
              all={season.gone.map((one) => ({
                name: one.movement,
                about: `last ${brief(one.last)}`,
                to: movement(one.movement),
              }))}
            />
            <Names
              title="Loads"
              none="No lift came twice with a load."
              all={season.lifted.map((one) => ({
                name: one.movement,
                about: `${one.points.map((point) => point.kg).join(" → ")} kg`,
                to: movement(one.movement),
              }))}
            />
            <Names
              title="Saved workouts to retest"
              none="All were held in the last eight weeks."
              all={season.due.map((one) => ({
                name: one.title,
                about: one.last ? `last ${brief(one.last)}` : "not held yet",
                to: one.last ? `/day/${one.last}/write` : `/week/${date}`,
              }))}
            />
          </div>
        </>
      )}
    </section>
  );
}
