// Classes of the day filling up: who comes, who waits, what limits them, the kit they need.
import { Button, NumberInput, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useWrite } from "../../../api/writes";
import { useConfirm } from "../../../ui/Confirm";
import fieldStyles from "../../../ui/fields.module.css";
import { undoable } from "../../../ui/undoable";
import styles from "./Bookings.module.css";

type Class = Schemas["Filling"];
type Person = Schemas["ComingPerson"];

const namesOf = (people: readonly Person[]) => people.map((person) => person.name).join(", ");

function Names({ people, onOff }: { people: readonly Person[]; onOff: (id: number) => void }) {
  return (
    <ol className={styles.names}>
      {people.map((person) => (
        <li key={person.id}>
          {person.name}
          {person.limits.length > 0 && <em> {person.limits.join(", ")}</em>}
          <button
            type="button"
            aria-label={`${person.name} does not come`}
            onClick={() => onOff(person.id)}
          >
            ×
          </button>
        </li>
      ))}
    </ol>
  );
}

function One({
  date,
  one,
  everybody,
}: {
  date: string;
  one: Class;
  everybody: Schemas["FloorOut"]["people"];
}) {
  const time = one.start.slice(0, 5);
  const path = { date, start: one.start };
  const touches = () => [keys.places(date), keys.floor(date)];
  const [problem, setProblem] = useState("");
  const [changing, setChanging] = useState(false);
  const [size, setSize] = useState<number | string>(one.size);
  const [minutes, setMinutes] = useState<number | string>(one.minutes ?? "");
  const [word, setWord] = useState(one.word);
  const onRefused = (refusal: { message: string }) => setProblem(refusal.message);
  const sign = useWrite(
    (body: Schemas["SignForm"]) =>
      ask(api.PUT("/api/days/{date}/classes/{start}/place", { params: { path }, body })),
    { touches, onRefused },
  );
  const plan = useWrite(
    (body: Schemas["PlanForm"]) =>
      ask(api.PUT("/api/days/{date}/classes/{start}/plan", { params: { path }, body })),
    { touches, onRefused, onDone: () => setChanging(false) },
  );
  const moved = useWrite(
    (body: Schemas["MoveForm"]) =>
      ask(api.POST("/api/days/{date}/classes/{start}/move", { params: { path }, body })),
    { touches, onRefused, onDone: () => setChanging(false) },
  );
  const [to, setTo] = useState("");
  const keep = (cancelled: boolean, version = one.version) =>
    plan.mutate({
      size: Number(size) || null,
      minutes: Number(minutes) || null,
      word,
      cancelled,
      version,
    });
  const [dialog, confirm] = useConfirm();
  const booked = one.coming.length + one.waiting.length;
  const cancel = () =>
    confirm({
      title: `Cancel the class at ${time}?`,
      text:
        booked > 0
          ? `${booked === 1 ? "1 person has" : `${booked} people have`} booked and will be told.`
          : "Nobody has booked it yet.",
      verb: "Cancel this class",
      back: "Keep the class",
      act: () => {
        keep(true);
        undoable(`The class at ${time} is cancelled.`, () => keep(false, one.version + 1));
      },
    });
  const there = new Set([...one.coming, ...one.waiting].map((person) => person.id));
  const off = (id: number) => sign.mutate({ person_id: id, coming: false });
  const lacking = one.kit.filter((kit) => kit.short);
  return (
    <section
      className={styles.one}
      aria-label={`Class at ${time}`}
      data-off={one.cancelled || undefined}
    >
      <h3>
        <span className="num">{time}</span>{" "}
        {one.cancelled ? "cancelled" : `${one.coming.length} of ${one.size}`}
        {one.minutes && ` · ${one.minutes} min`}
        {one.hall && ` · ${one.hall}`}
        {one.waiting.length > 0 && <small> {one.waiting.length} waiting</small>}
      </h3>
      {!one.cancelled && (
        <div
          className={styles.bar}
          style={{ "--full": Math.min(one.coming.length / one.size, 1) } as React.CSSProperties}
          aria-hidden
        />
      )}
      {one.word && <p>{one.word}</p>}
      <Names people={one.coming} onOff={off} />
      {one.waiting.length > 0 && (
        <>
          <p className={styles.wait}>Waiting, in order</p>
          <Names people={one.waiting} onOff={off} />
        </>
      )}
      {one.late.length > 0 && <p>Cancelled late: {namesOf(one.late)}</p>}
      {one.no_shows.length > 0 && <p>Booked, did not come: {namesOf(one.no_shows)}</p>}
      {lacking.length > 0 && (
        <p className={styles.short}>
          Short of kit:{" "}
          {lacking.map((kit) => `${kit.name} ${kit.there} for ${kit.need}`).join(", ")}
        </p>
      )}
      <div className={fieldStyles.lineTools}>
        {!one.cancelled && (
          <Select
            aria-label={`Sign up for ${time}`}
            placeholder="Sign somebody up"
            size="xs"
            w={170}
            searchable
            value={null}
            data={everybody
              .filter((person) => !there.has(person.id))
              .map((person) => ({ value: String(person.id), label: person.name }))}
            onChange={(id) => id && sign.mutate({ person_id: Number(id), coming: true })}
          />
        )}
        <Button
          size="compact-sm"
          variant="subtle"
          aria-expanded={changing}
          aria-label={`Change the class at ${time}`}
          onClick={() => {
            setSize(one.size);
            setMinutes(one.minutes ?? "");
            setWord(one.word);
            setChanging(!changing);
          }}
        >
          Change
        </Button>
      </div>
      {changing && (
        <form
          className="stack"
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            keep(one.cancelled);
          }}
        >
          <NumberInput size="xs" label="Places" min={1} max={200} value={size} onChange={setSize} />
          <NumberInput
            size="xs"
            label="Minutes"
            placeholder="as the day"
            data-holds
            min={10}
            max={240}
            value={minutes}
            onChange={setMinutes}
          />
          <TextInput
            size="xs"
            label="Note to those booked"
            value={word}
            onChange={(event) => setWord(event.currentTarget.value)}
          />
          {!one.cancelled && (
            <div className={fieldStyles.lineTools}>
              <TextInput
                aria-label={`Move the class at ${time} to`}
                type="time"
                size="xs"
                value={to}
                onChange={(event) => setTo(event.currentTarget.value)}
              />
              <Button
                size="compact-sm"
                variant="default"
                disabled={!to || to === time}
                onClick={() => moved.mutate({ to, version: one.version })}
              >
                Move it: all keep their places
              </Button>
            </div>
          )}
          <div className={fieldStyles.lineTools}>
            <Button key="keep" type="submit" size="compact-sm">
              Save
            </Button>
            <Button
              key="off"
              size="compact-sm"
              variant="default"
              onClick={() => (one.cancelled ? keep(false) : cancel())}
            >
              {one.cancelled ? "Hold it after all" : "Cancel this class"}
            </Button>
          </div>
        </form>
      )}
      {problem && <p role="alert">{problem}</p>}
      {dialog}
    </section>
  );
}

/** A class that the week does not have. */
function Another({ date }: { date: string }) {
  const [start, setStart] = useState("");
  const [problem, setProblem] = useState("");
  const add = useWrite(
    () =>
      ask(
        api.PUT("/api/days/{date}/classes/{start}/plan", {
          params: { path: { date, start } },
          body: { size: null, minutes: null, cancelled: false, word: "", version: 0 },
        }),
      ),
    {
      onDone: () => setStart(""),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.places(date), keys.floor(date)],
    },
  );
  return (
    <form
      className={fieldStyles.lineTools}
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        setProblem("");
        add.mutate(undefined);
      }}
    >
      <TextInput
        aria-label="Another class at"
        type="time"
        size="xs"
        value={start}
        onChange={(event) => setStart(event.currentTarget.value)}
      />
      <Button type="submit" size="compact-sm" variant="default" disabled={!start}>
        Add a class
      </Button>
      {problem && <p role="alert">{problem}</p>}
    </form>
  );
}

export function Bookings({
  date,
  everybody,
}: {
  date: string;
  everybody: Schemas["FloorOut"]["people"];
}) {
  const found = useQuery({
    queryKey: keys.places(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/places", { signal, params: { path: { date } } })),
  });
  return (
    <section aria-label="Bookings" className={styles.filling}>
      <h2>Bookings</h2>
      <div className={styles.classes}>
        {found.data?.map((one) => (
          <One key={one.start} date={date} one={one} everybody={everybody} />
        ))}
      </div>
      <Another date={date} />
    </section>
  );
}
