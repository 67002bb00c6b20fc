// On the phone, after the class: effort and a note.
import { Button, Textarea, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { myEffort } from "../../api/queries";
import { useMyId } from "../../api/useMyId";
import { keep as enqueue, useWaiting } from "../../offline/outbox";
import { isHere } from "../../offline/queue";
import styles from "./AfterClass.module.css";

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
    (waits ? "Saved on this device. It is sent by itself." : said ? "Saved." : "");
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
