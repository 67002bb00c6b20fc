// All athletes at a glance: who is missed, whose places move, what limits whom, what waits.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { spoken } from "../../ui/dates";
import { Failed, Waiting } from "../../ui/states";
import styles from "./Overview.module.css";

type Named = Schemas["Named"];

function People<T extends Named>(props: {
  title: string;
  none: string;
  people: readonly T[];
  about?: (one: T) => string;
}) {
  return (
    <section aria-label={props.title}>
      <h2>{props.title}</h2>
      {props.people.length === 0 && <p>{props.none}</p>}
      <ul>
        {props.people.map((one) => (
          <li key={one.id}>
            <Link to={`/athletes/${one.id}`}>{one.name}</Link>{" "}
            {props.about && <small>{props.about(one)}</small>}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function Overview() {
  const found = useQuery({
    queryKey: keys.overview,
    queryFn: ({ signal }) => ask(api.GET("/api/athletes/overview", { signal })),
  });
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Waiting />;
  const { away, rising, fading, limits, doubts } = found.data;
  return (
    <div className={styles.overview}>
      <h1>Athletes</h1>
      <div className={styles.parts}>
        <People
          title="Not here for two weeks"
          none="Everybody has been here."
          people={away}
          about={(one) => (one.last ? `last ${spoken(one.last)}` : "in no class yet")}
        />
        <section aria-label="Scores that need checking">
          <h2>Scores that need checking</h2>
          {doubts.length === 0 && <p>Nothing waiting.</p>}
          <ul>
            {doubts.map((one) => (
              <li key={one.date}>
                <Link to={`/day/${one.date}/score`}>{spoken(one.date)}</Link>{" "}
                <small>{one.count === 1 ? "one score" : `${one.count} scores`}</small>
              </li>
            ))}
          </ul>
        </section>
        <People
          title="Limits"
          none="Nobody has noted one."
          people={limits}
          about={(one) => one.limits.join(", ")}
        />
        <People title="Improving" none="Nobody is clearly improving." people={rising} />
        <People title="Slipping" none="Nobody is clearly slipping." people={fading} />
      </div>
      <p>
        <small>
          Improving and slipping: places in one's tier of the last four weeks against the eight
          before. Rest, illness and work all count: ask, and never conclude.
        </small>
      </p>
    </div>
  );
}
