// Who is here: typed in, ticked, or checked in by phone.
import { Select } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import { useMyId } from "../../../api/useMyId";
import { keep, useWaiting } from "../../../offline/outbox";
import wordStyles from "../../../ui/words.module.css";
import styles from "./Attendance.module.css";

export function Attendance({
  floor,
  held,
  date,
}: {
  floor: Schemas["FloorOut"];
  held: Schemas["ClassHeld"];
  date: string;
}) {
  const me = useMyId();
  const mark = (person: number, there: boolean) =>
    keep(me, { kind: "here", date, classId: held.id ?? 0, person, here: there });
  // What was ticked and has not sent yet counts here already.
  const ticked = new Map(
    useWaiting(me).flatMap((one) =>
      one.kind === "here" && one.classId === held.id && !one.refused
        ? [[one.person, one.here] as const]
        : [],
    ),
  );
  const isHere = (id: number) => ticked.get(id) ?? held.here.includes(id);
  const here = floor.people.filter((person) => isHere(person.id));
  const flagged = here.some((person) => person.flag);
  return (
    <section className={styles.here}>
      <h2>
        Present <small className="num">{here.length}</small>
      </h2>
      <Select
        aria-label="Attendance"
        placeholder="Type a name"
        searchable
        value={null}
        onChange={(value) => value && mark(Number(value), true)}
        data={floor.people
          .filter((person) => !isHere(person.id))
          .map((person) => ({ value: String(person.id), label: person.name }))}
      />
      <ul>
        {here.map((person) => (
          <li key={person.id}>
            {person.name}
            {person.flag && <em> {person.flag}</em>}
            <button
              type="button"
              aria-label={`${person.name} is not here`}
              onClick={() => mark(person.id, false)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {flagged && <p className={wordStyles.safety}>{floor.readiness}</p>}
    </section>
  );
}
