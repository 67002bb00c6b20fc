// On the phone, around the class: checking in before it, effort and a note after it.
import { Button, Textarea, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { myClasses, myEffort } from "../../api/queries";
import { useMyId } from "../../api/useMyId";
import { keep as enqueue, useWaiting } from "../../offline/outbox";
import { isHere } from "../../offline/queue";
import wordStyles from "../../ui/words.module.css";
import styles from "./AroundClass.module.css";

export function CheckIn({ date }: { date: string }) {
  const me = useMyId();
  const found = useQuery(myClasses(date));
  const pressed = new Map(
    useWaiting(me).flatMap((one) =>
      one.kind === "check-in" && isHere(one, date) ? [[one.start, one] as const] : [],
    ),
  );
  if (!found.data || found.data.classes.length === 0) return null;
  const { classes, readiness, pain } = found.data;
  const flip = (start: string, here: boolean) =>
    enqueue(me, { kind: "check-in", date, start, here });
  return (
    <section className={styles.checkIn} aria-label="Check in">
      {classes.map((one) => {
        const waits = pressed.get(one.start);
        const here = waits && !waits.refused ? waits.here : one.here;
        return (
          <Button
            key={one.start}
            variant={here ? "filled" : "default"}
            aria-pressed={here}
            onClick={() => flip(one.start, !here)}
          >
            {one.start.slice(0, 5)} {here ? "I am in" : `· ${one.others} in`}
          </Button>
        );
      })}
      {classes.some((one) => one.names.length > 0) && (
        <p>
          {classes
            .filter((one) => one.names.length > 0)
            .map((one) => `${one.start.slice(0, 5)}: ${one.names.join(", ")}`)
            .join(" · ")}
        </p>
      )}
      {[...pressed.values()].map(
        (one) =>
          one.refused && (
            <p key={one.id} role="alert">
              {one.refused.words}
            </p>
          ),
      )}
      {readiness && (
        <p className={wordStyles.safety}>
          <b>{pain}</b> {readiness}
        </p>
      )}
    </section>
  );
}

export function Effort({ date, minutes }: { date: string; minutes: number }) {
  const me = useMyId();
  const kept = useQuery(myEffort(date));
  const waits = useWaiting(me).find((one) => one.kind === "effort" && isHere(one, date));
  const [effort, setEffort] = useState<string>();
  const [length, setLength] = useState<string>();
  const [note, setNote] = useState<string | null>(null);
  const [said, setSaid] = useState(false);
  const value = effort ?? kept.data?.effort ?? "";
  const long = length ?? kept.data?.minutes ?? minutes;
  const keep = (event: FormEvent) => {
    event.preventDefault();
    enqueue(me, {
      kind: "effort",
      date,
      body: {
        effort: Number(value),
        minutes: Number(long),
        note: note ?? kept.data?.note ?? "",
      },
    });
    setSaid(true);
  };
  const words =
    waits?.refused?.words ??
    (waits ? "Kept on this device and sent by itself." : said ? "Kept." : "");
  return (
    <form className={styles.effort} aria-label="After class" onSubmit={keep}>
      <h2>After class</h2>
      <TextInput
        label="Effort, 0 (nothing) to 10 (as hard as it can be)"
        type="number"
        inputMode="decimal"
        min={0}
        max={10}
        step={0.5}
        required
        withAsterisk={false}
        value={value}
        onChange={(event) => setEffort(event.currentTarget.value)}
      />
      <TextInput
        label="Minutes"
        type="number"
        inputMode="numeric"
        min={1}
        max={600}
        required
        withAsterisk={false}
        value={long}
        onChange={(event) => setLength(event.currentTarget.value)}
      />
      <Textarea
        label="Note, for me and the coach"
        autosize
        maxLength={1000}
        value={note ?? kept.data?.note ?? ""}
        onChange={(event) => setNote(event.currentTarget.value)}
      />
      <Button mt="sm" type="submit">
        Save effort
      </Button>{" "}
      <span role="status">{words}</span>
    </form>
  );
}
