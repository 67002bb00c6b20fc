// An open piece ends athlete by athlete: one press each, and one press keeps the score.
import { Button } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import type { Moment } from "../../../clock/moment";
import styles from "./Finishes.module.css";
import { useFinishes } from "./useFinishes";

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
  const ends = useFinishes(date, clock, moment, heatOf);
  const present = people.filter((person) => here.includes(person.id));
  return (
    <section className={styles.finishes}>
      <h2>Finished</h2>
      <ul>
        {present.map((person) => {
          const shown = ends.endOf(person.id);
          const refused = ends.refusedOf(person.id);
          return (
            <li key={person.id}>
              <button
                type="button"
                aria-pressed={shown !== undefined}
                onClick={() => ends.press(person.id, shown === undefined ? "finish" : "unfinish")}
              >
                {person.name} <b className="num">{shown}</b>
                {refused && <small role="alert"> {refused}</small>}
              </button>
            </li>
          );
        })}
      </ul>
      {ends.count > 0 && (
        <Button
          size="xs"
          loading={ends.keeping.isPending}
          disabled={ends.waits}
          onClick={() => ends.keeping.mutate(undefined)}
        >
          Save {ends.count} as scores
        </Button>
      )}
      {ends.said && <p role="status">{ends.said}</p>}
    </section>
  );
}
