// On the phone: my class of the day, in one of a few states, and what I can do about it.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { myClasses } from "../../api/queries";
import { useMyId } from "../../api/useMyId";
import { useWrite } from "../../api/writes";
import { keep as enqueue, useWaiting } from "../../offline/outbox";
import { isHere } from "../../offline/queue";
import { useConfirm } from "../../ui/Confirm";
import { clockTime } from "../../ui/dates";
import wordStyles from "../../ui/words.module.css";
import styles from "./MyClass.module.css";
import { type MyStand, mineOf, ordinal, standOf } from "./myClassStates";

type Place = Schemas["MyPlace"];

/** My place in a class, in a few words. */
function words(one: Place, stand: MyStand): string {
  const free = one.size - one.coming;
  switch (stand) {
    case "cancelled":
      return one.word ? `Cancelled: ${one.word}` : "Cancelled";
    case "checked in":
      return "Checked in";
    case "booked":
      return one.decline_until
        ? `Booked: you moved up. Decline by ${clockTime(one.decline_until)} if you cannot come`
        : "Booked";
    case "waiting":
      return `Full: you wait ${ordinal(one.place)}`;
    case "full":
      return one.waiting ? `Full, ${one.waiting} waiting` : "Full";
    case "over":
      return "Begun";
    default:
      return `${free} of ${one.size} places free`;
  }
}

export function MyClass({ date, today }: { date: string; today: boolean }) {
  const me = useMyId();
  const [problem, setProblem] = useState("");
  const [all, setAll] = useState(false);
  const [dialog, confirm] = useConfirm();
  const places = useQuery({
    queryKey: keys.myPlaces(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/places", { signal, params: { path: { date } } })),
  });
  const classes = useQuery(myClasses(date));
  const pressed = new Map(
    useWaiting(me).flatMap((one) =>
      one.kind === "check-in" && isHere(one, date) ? [[one.start, one] as const] : [],
    ),
  );
  const book = useWrite(
    (body: Schemas["ComingForm"]) =>
      ask(api.PUT("/api/me/days/{date}/place", { params: { path: { date } }, body })),
    {
      onDone: () => setProblem(""),
      onRefused: (refusal, sent) => {
        if (refusal.asks !== "also" && refusal.asks !== "late") {
          setProblem(refusal.message);
          return;
        }
        const late = refusal.asks === "late";
        confirm({
          title: late ? "Cancel late?" : "Two classes on one day?",
          text: refusal.message,
          verb: late ? "Cancel booking" : "Book both",
          back: late ? "Keep booking" : undefined,
          act: () => book.mutate({ ...sent, [refusal.asks as "also" | "late"]: true }),
        });
      },
      touches: () => [keys.myPlaces(date)],
    },
  );
  if (places.data?.closed && places.data.classes.length === 0)
    return (
      <section className={styles.mine} aria-label="My class">
        <p>Closed: {places.data.closed}</p>
      </section>
    );
  if (!places.data || places.data.classes.length === 0) return null;
  const checked = (start: string) => {
    const waits = pressed.get(start);
    if (waits && !waits.refused) return waits.here;
    return classes.data?.classes.find((one) => one.start === start)?.here ?? false;
  };
  const stands = places.data.classes.map((one) => ({
    one,
    stand: standOf(one, checked(one.start)),
  }));
  const first = mineOf(stands);
  const others = stands.filter((each) => each !== first);
  const came = classes.data?.classes.filter((one) => one.names.length > 0) ?? [];
  const readiness = classes.data?.readiness;
  const { kit } = places.data;

  const row = ({ one, stand }: (typeof stands)[number]) => {
    const time = one.start.slice(0, 5);
    const booked = stand === "booked" || stand === "waiting";
    const full = stand === "full";
    const label = booked ? "Cancel booking" : full ? "Wait for a place" : "Book";
    const may = stand !== "over" && stand !== "cancelled" && stand !== "checked in";
    const enter = today && stand !== "cancelled" && stand !== "waiting";
    return (
      <li key={one.start} data-stand={stand}>
        <b className="num">{time}</b>
        <span>
          {words(one, stand)}
          {one.minutes && ` · ${one.minutes} min`}
          {one.hall && ` · ${one.hall}`}
        </span>
        <span className={styles.acts}>
          {(may || (stand === "cancelled" && one.mine !== "no")) && (
            <Button
              size="sm"
              variant={booked || stand === "cancelled" ? "default" : "filled"}
              aria-label={`${stand === "cancelled" ? "Cancel booking" : label} at ${time}`}
              loading={book.isPending && book.variables?.start === one.start}
              onClick={() =>
                book.mutate({
                  start: one.start,
                  coming: one.mine === "no",
                  also: false,
                  late: false,
                })
              }
            >
              {stand === "cancelled" ? "Cancel booking" : label}
            </Button>
          )}
          {enter && (
            <Button
              size="sm"
              variant={stand === "booked" ? "filled" : "default"}
              aria-label={`${stand === "checked in" ? "Undo check-in" : "Check in"} at ${time}`}
              onClick={() =>
                enqueue(me, {
                  kind: "check-in",
                  date,
                  start: one.start,
                  here: stand !== "checked in",
                })
              }
            >
              {stand === "checked in" ? "Undo" : "Check in"}
            </Button>
          )}
        </span>
      </li>
    );
  };

  return (
    <section className={styles.mine} aria-label="My class">
      <ul>
        {first && row(first)}
        {all && others.map(row)}
      </ul>
      {(others.length > 0 || kit.length > 0) && (
        <button
          type="button"
          className={styles.others}
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all ? "Less" : others.length > 0 ? `Other classes: ${others.length}` : "Kit"}
        </button>
      )}
      {all && kit.length > 0 && (
        <p>
          <b>Kit</b> {kit.join(" · ")}
        </p>
      )}
      {all && came.length > 0 && (
        <p>{came.map((one) => `${one.start.slice(0, 5)}: ${one.names.join(", ")}`).join(" · ")}</p>
      )}
      {problem && <p role="alert">{problem}</p>}
      {dialog}
      {[...pressed.values()].map(
        (one) =>
          one.refused && (
            <p key={one.id} role="alert">
              {one.refused.words}
            </p>
          ),
      )}
      {today && readiness && (
        <p className={wordStyles.safety}>
          <b>{classes.data?.pain}</b> {readiness}
        </p>
      )}
    </section>
  );
}
