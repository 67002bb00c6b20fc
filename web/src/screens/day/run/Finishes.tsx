// An open piece ends athlete by athlete: one press each, and one press keeps the score.
import { Button } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keptWords } from "./kept";

type Press = NonNullable<Schemas["PressForm"]["press"]>;

export function Finishes({
  date,
  clock,
  people,
  here,
  heatOf,
  press,
}: {
  date: string;
  clock: Schemas["ClockOut"];
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
  heatOf: (person: number) => number;
  press: (what: Press, more?: Partial<Schemas["PressForm"]>) => void;
}) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const done = new Map(clock.finishes.map((one) => [one.person_id, one.shown]));
  const present = people.filter((person) => here.includes(person.id));
  const keep = async () => {
    try {
      const path = { class_id: clock.class_id };
      setSaid(
        keptWords(
          await ask(api.POST("/api/classes/{class_id}/finishes/keep", { params: { path } })),
        ),
      );
    } catch (error) {
      setSaid((error as Error).message);
    }
    client.invalidateQueries({ queryKey: ["sheet", date] });
  };
  return (
    <section className="finishes">
      <h2>Finished</h2>
      <ul>
        {present.map((person) => {
          const shown = done.get(person.id);
          return (
            <li key={person.id}>
              <button
                type="button"
                aria-pressed={shown !== undefined}
                onClick={() =>
                  press(shown === undefined ? "finish" : "unfinish", {
                    athlete_id: person.id,
                    heat: heatOf(person.id),
                    key: clock.key,
                  })
                }
              >
                {person.name} <b className="num">{shown}</b>
              </button>
            </li>
          );
        })}
      </ul>
      {done.size > 0 && (
        <Button size="xs" onClick={keep}>
          Keep {done.size} as scores
        </Button>
      )}
      {said && <p role="status">{said}</p>}
    </section>
  );
}
