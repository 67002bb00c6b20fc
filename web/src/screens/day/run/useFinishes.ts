// Who has ended an open piece, and when: a press counts from its own moment, however late it lands.
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useMyId } from "../../../api/useMyId";
import { useWrite } from "../../../api/writes";
import type { Moment } from "../../../clock/moment";
import { keep as queue, useWaiting } from "../../../offline/outbox";
import { savedMessage } from "../../../training/savedMessage";

export function useFinishes(
  date: string,
  clock: Schemas["ClockOut"],
  moment: Moment,
  heatOf: (person: number) => number,
) {
  const me = useMyId();
  const [said, setSaid] = useState("");
  const keeping = useWrite(
    () =>
      ask(
        api.POST("/api/classes/{class_id}/finishes/keep", {
          params: { path: { class_id: clock.class_id } },
        }),
      ),
    {
      onDone: (kept) => setSaid(savedMessage(kept)),
      onRefused: (refusal) => setSaid(refusal.message),
      touches: () => [keys.scores(date)],
    },
  );
  const done = new Map(clock.finishes.map((one) => [one.person_id, one.shown]));
  const pressed = new Map(
    useWaiting(me).flatMap((one) =>
      one.kind === "finish" && one.classId === clock.class_id && one.body.key === clock.key
        ? [[one.body.athlete_id, one] as const]
        : [],
    ),
  );
  const press = (
    person: number,
    what: "finish" | "unfinish",
    at: number | null = moment?.() ?? null,
  ) =>
    queue(me, {
      kind: "finish",
      date,
      classId: clock.class_id,
      body: {
        press: what,
        athlete_id: person,
        heat: heatOf(person),
        key: clock.key,
        at,
      },
    });
  /** Somebody's end as it stands: its time, `…` while it is on its way, undefined for none. */
  const endOf = (person: number): string | undefined => {
    const waits = pressed.get(person);
    if (waits?.body.press === "finish") return "…";
    return waits?.body.press === "unfinish" ? undefined : done.get(person);
  };
  return {
    count: done.size,
    said,
    keeping,
    waits: pressed.size > 0,
    endOf,
    refusedOf: (person: number) => pressed.get(person)?.refused?.words,
    press,
  };
}
