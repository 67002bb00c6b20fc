// On the floor: who comes late, and who stops early and why.
import { Button, Modal, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { Schemas } from "../../../api/client";
import { sheet } from "../../../api/queries";
import { useMyId } from "../../../api/useMyId";
import { keep, useWaiting } from "../../../offline/outbox";
import { newKey } from "../../../offline/queue";

type Person = Schemas["FloorPerson"];

/** Marks somebody present who came after the start. */
export function LateArrival({
  people,
  here,
  date,
  classId,
}: {
  people: readonly Person[];
  here: readonly number[];
  date: string;
  classId: number;
}) {
  const me = useMyId();
  const [open, setOpen] = useState(false);
  const add = (person: number) => {
    keep(me, { kind: "here", date, classId, person, here: true });
    setOpen(false);
  };
  return (
    <>
      <Button variant="default" onClick={() => setOpen(true)}>
        Add an athlete
      </Button>
      <Modal opened={open} onClose={() => setOpen(false)} title="Add an athlete" centered>
        <Select
          label="Athlete"
          placeholder="Type a name"
          searchable
          data-autofocus
          value={null}
          onChange={(value) => value && add(Number(value))}
          data={people
            .filter((person) => !here.includes(person.id))
            .map((person) => ({ value: String(person.id), label: person.name }))}
        />
      </Modal>
    </>
  );
}

/** Athletes present, those ticked here and not sent yet included; late arrivals stand last. */
export function usePresent(
  people: readonly Person[],
  here: readonly number[],
  classId: number,
  order: { current: number[] },
): Person[] {
  const ticked = new Map(
    useWaiting(useMyId()).flatMap((one) =>
      one.kind === "here" && one.classId === classId && !one.refused
        ? [[one.person, one.here] as const]
        : [],
    ),
  );
  const present = people.filter((one) => ticked.get(one.id) ?? here.includes(one.id));
  const known = new Set(order.current);
  order.current = [
    ...order.current,
    ...present.map((one) => one.id).filter((id) => !known.has(id)),
  ];
  return order.current.flatMap((id) => present.find((one) => one.id === id) ?? []);
}

/** Athletes who stopped early, with their reasons; `stop` and `goOn` change them. */
export function useStopped(date: string, key: string) {
  const me = useMyId();
  const waiting = useWaiting(me);
  const scores = useQuery(sheet(date)).data?.scores ?? [];
  const kept = new Map(
    scores.flatMap((one) =>
      one.piece_key === key && one.display === "DNF" ? [[one.person_id, one.entered] as const] : [],
    ),
  );
  for (const one of waiting) {
    if (one.kind === "score" && one.key === key && !one.refused) {
      if (/^dnf\b/i.test(one.body.entered)) kept.set(one.person, one.body.entered);
      else kept.delete(one.person);
    }
  }
  const versionOf = (person: number) =>
    scores.find((one) => one.piece_key === key && one.person_id === person)?.version ?? 0;
  const write = (person: Person, entered: string) =>
    keep(me, {
      kind: "score",
      date,
      key,
      person: person.id,
      mine: false,
      body: {
        entered,
        tier: person.tier,
        track: person.track,
        version: versionOf(person.id),
        request_key: newKey(),
      },
    });
  return {
    /** The reason, empty where none was said; undefined for who goes on. */
    reasonOf: (person: number) => kept.get(person)?.replace(/^dnf[\s:,]*/i, ""),
    stop: (person: Person, reason: string) => write(person, `dnf ${reason}`.trim()),
    goOn: (person: Person) => write(person, ""),
  };
}

/** Asks why somebody stops; nothing has to be said. */
export function StopEarly({
  name,
  onStop,
  onClose,
}: {
  name: string;
  onStop: (reason: string) => void;
  onClose: () => void;
}) {
  const [reason, setReason] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // Letters alone: figures would be read as a result.
    onStop(reason.replace(/[^\p{L}' ]+/gu, " ").trim());
    onClose();
  };
  return (
    <Modal opened onClose={onClose} title={`${name} stops early`} centered>
      <form className="stack" onSubmit={submit}>
        <p>
          They are kept as <b>did not finish</b>. Pain stops the set; a licensed clinician judges
          it.
        </p>
        <TextInput
          label="Reason"
          description="One or two words, for the coaches; may stay empty"
          maxLength={40}
          value={reason}
          data-autofocus
          onChange={(event) => setReason(event.currentTarget.value)}
        />
        <Button type="submit">Stop</Button>
      </form>
    </Modal>
  );
}
