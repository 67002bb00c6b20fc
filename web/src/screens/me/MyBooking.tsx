// On the phone, before a class: saying that I come, where I stand in line, the kit I need.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import styles from "./MyBooking.module.css";

type Place = Schemas["MyPlace"];

/** How full a class is and where I stand, in a few words. */
function words(one: Place): string {
  if (one.cancelled) return one.word ? `cancelled: ${one.word}` : "cancelled";
  const free = one.size - one.coming;
  if (one.mine === "coming") return "you have a place";
  if (one.mine === "waiting") return `full; you wait at place ${one.place}`;
  if (free <= 0) return one.waiting ? `full, ${one.waiting} waiting` : "full";
  return `${free} of ${one.size} places free`;
}

export function MyBooking({ date }: { date: string }) {
  const [problem, setProblem] = useState("");
  const found = useQuery({
    queryKey: keys.myPlaces(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/places", { signal, params: { path: { date } } })),
  });
  const say = useWrite(
    (body: Schemas["ComingForm"]) =>
      ask(api.PUT("/api/me/days/{date}/place", { params: { path: { date } }, body })),
    {
      onDone: () => setProblem(""),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.myPlaces(date)],
    },
  );
  if (!found.data) return null;
  // What has begun is checked in to, not signed up for.
  const ahead = found.data.classes.filter((one) => !one.over);
  if (ahead.length === 0 && found.data.kit.length === 0) return null;
  return (
    <section className={styles.coming} aria-label="Coming">
      {found.data.kit.length > 0 && (
        <p>
          <b>Kit</b> {found.data.kit.join(" · ")}
        </p>
      )}
      <ul>
        {ahead.map((one) => {
          const time = one.start.slice(0, 5);
          const mine = one.mine !== "no";
          const full = one.coming >= one.size;
          const label = mine ? "Not coming" : full ? "Wait for a place" : "Coming";
          return (
            <li key={one.start} data-mine={mine || undefined}>
              <b className="num">{time}</b>
              <span>
                {words(one)}
                {one.minutes && ` · ${one.minutes} min`}
                {one.hall && ` · ${one.hall}`}
              </span>
              {(mine || !one.cancelled) && (
                <Button
                  size="sm"
                  variant={mine ? "default" : "filled"}
                  aria-label={`${label} at ${time}`}
                  loading={say.isPending && say.variables?.start === one.start}
                  onClick={() => say.mutate({ start: one.start, coming: !mine })}
                >
                  {label}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {problem && <p role="alert">{problem}</p>}
    </section>
  );
}
