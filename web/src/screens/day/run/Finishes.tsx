// An open piece ends athlete by athlete: one press each, and one press keeps the score.
import { Button } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useMyId } from "../../../api/useMyId";
import { useWrite } from "../../../api/writes";
import type { Moment } from "../../../clock/moment";
import { keep as queue, useWaiting } from "../../../offline/outbox";
import { keptWords } from "../../../session/keptWords";
import styles from "./Finishes.module.css";

export function Finishes({
  date,
  clock,
  people,
  here,
  heatOf,
  moment,
}: {
  date: string;
  clock: Schemas["ClockOut"];
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
  heatOf: (person: number) => number;
  moment: Moment;
}) {
  const [said, setSaid] = useState("");
  const done = new Map(clock.finishes.map((one) => [one.person_id, one.shown]));
  const present = people.filter((person) => here.includes(person.id));
  const keep = useWrite(
    () =>
      ask(
        api.POST("/api/classes/{class_id}/finishes/keep", {
          params: { path: { class_id: clock.class_id } },
        }),
      ),
    {
      onDone: (kept) => setSaid(keptWords(kept)),
      onRefused: (refusal) => setSaid(refusal.message),
      touches: () => [keys.scores(date)],
    },
  );
  const me = useMyId();
  const pressed = new Map(
    useWaiting(me).flatMap((one) =>
      one.kind === "finish" && one.classId === clock.class_id && one.body.key === clock.key
        ? [[one.body.athlete_id, one] as const]
        : [],
    ),
  );
  /** An end counts at the moment it is pressed, however late it lands. */
  const press = (person: number, what: "finish" | "unfinish") =>
    queue(me, {
      kind: "finish",
      date,
      classId: clock.class_id,
      body: {
        press: what,
        athlete_id: person,
        heat: heatOf(person),
        key: clock.key,
        at: moment?.() ?? null,
      },
    });
  return (
    <section className={styles.finishes}>
      <h2>Finished</h2>
      <ul>
        {present.map((person) => {
          const waits = pressed.get(person.id);
          const shown =
            waits?.body.press === "finish"
              ? "…"
              : waits?.body.press === "unfinish"
                ? undefined
                : done.get(person.id);
          return (
            <li key={person.id}>
              <button
                type="button"
                aria-pressed={shown !== undefined}
                onClick={() => press(person.id, shown === undefined ? "finish" : "unfinish")}
              >
                {person.name} <b className="num">{shown}</b>
                {waits?.refused && <small role="alert"> {waits.refused.words}</small>}
              </button>
            </li>
          );
        })}
      </ul>
      {done.size > 0 && (
        <Button
          size="xs"
          loading={keep.isPending}
          disabled={pressed.size > 0}
          onClick={() => keep.mutate(undefined)}
        >
          Keep {done.size} as scores
        </Button>
      )}
      {said && <p role="status">{said}</p>}
    </section>
  );
}
