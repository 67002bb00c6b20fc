// An open piece ends athlete by athlete: one press each, and one press keeps the score.
import { Button } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { clockFace } from "../../parts/play";
import { send } from "../score/entries";

type Press = NonNullable<Schemas["PressForm"]["press"]>;

export function Finishes({
  date,
  clock,
  people,
  here,
  press,
}: {
  date: string;
  clock: Schemas["ClockOut"];
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
  press: (what: Press, more?: Partial<Schemas["PressForm"]>) => void;
}) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const done = new Map(clock.finishes.map((one) => [one.person_id, one.seconds]));
  const present = people.filter((person) => here.includes(person.id));
  const keep = async () => {
    let kept = 0;
    const refused: string[] = [];
    for (const person of present) {
      const seconds = done.get(person.id);
      if (seconds === undefined) continue;
      try {
        await send(date, {
          key: clock.key,
          person: person.id,
          entered: clockFace(seconds, true),
          tier: person.tier,
          track: person.track,
          version: 0,
          requestKey: `finish-${clock.class_id}-${clock.key}-${person.id}-${Math.round(seconds * 100)}`,
        });
        kept += 1;
      } catch (error) {
        refused.push(`${person.name}: ${(error as Error).message}`);
      }
    }
    setSaid([`${kept} kept`, ...refused].join(" · "));
    client.invalidateQueries({ queryKey: ["sheet", date] });
  };
  return (
    <section className="finishes">
      <h2>Finished</h2>
      <ul>
        {present.map((person) => {
          const seconds = done.get(person.id);
          return (
            <li key={person.id}>
              <button
                type="button"
                aria-pressed={seconds !== undefined}
                onClick={() =>
                  press(seconds === undefined ? "finish" : "unfinish", { athlete_id: person.id })
                }
              >
                {person.name}{" "}
                <b className="num">{seconds === undefined ? "" : clockFace(seconds, true)}</b>
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
