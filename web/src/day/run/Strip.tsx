// Jotting as it happens: a row an athlete, a cell a round. It works without network.
import { Button } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { jots as jotsQuery } from "../../api/queries";
import { note, numberOf, useOutbox } from "../../parts/outbox";
import { clockFace } from "../../parts/play";
import { keptWords } from "./kept";

export function Strip({
  date,
  pieceKey,
  people,
  here,
}: {
  date: string;
  pieceKey: string;
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
}) {
  const client = useQueryClient();
  const found = useQuery(jotsQuery(date, pieceKey));
  const waiting = useOutbox(date, pieceKey);
  const [said, setSaid] = useState("");
  const left = waiting.length;
  // Once the outbox is empty, what landed is read back.
  useEffect(() => {
    if (left === 0) client.invalidateQueries({ queryKey: ["jots", date, pieceKey] });
  }, [left, client, date, pieceKey]);
  const strip = found.data?.strip;
  if (!strip) return null;
  const present = people.filter((person) => here.includes(person.id));
  const landed = new Map(found.data?.people.map((one) => [one.person_id, one]));
  const jotted = (person: number, round: number): number | null => {
    const local = waiting.filter((one) => one.person_id === person && one.round === round).at(-1);
    return local ? (local.number ?? null) : (landed.get(person)?.rounds[round] ?? null);
  };
  const shown = (number: number | null) =>
    number === null ? "" : strip.unit === "s" ? clockFace(number, false) : String(number);
  const jot = (person: number, round: number, text: string) => {
    const number = text.trim() ? numberOf(text) : null;
    if (text.trim() && number === null) {
      setSaid(`“${text}”: write a number, or minutes:seconds`);
      return;
    }
    if (number === jotted(person, round)) return;
    setSaid("");
    note({ date, piece: pieceKey, person_id: person, round, number, mine: false });
  };
  const keep = async () => {
    try {
      const path = { date, key: pieceKey };
      setSaid(
        keptWords(
          await ask(api.POST("/api/days/{date}/pieces/{key}/jots/keep", { params: { path } })),
        ),
      );
    } catch (error) {
      setSaid((error as Error).message);
    }
    client.invalidateQueries({ queryKey: ["sheet", date] });
  };
  const places = [
    ...strip.labels.map((label, at) => ({ round: at + 1, label })),
    ...(strip.extra ? [{ round: 0, label: "+ reps" }] : []),
  ];
  return (
    <section className="strip-jots">
      <h2>
        Jot{" "}
        <small role="status">{left > 0 ? `${left} kept on this device, not landed yet` : ""}</small>
      </h2>
      <div className="strip-scroll">
        <table>
          <thead>
            <tr>
              <th>{strip.unit === "s" ? "time of each" : strip.unit}</th>
              {places.map((place) => (
                <th key={place.round} title={place.label}>
                  {place.round || "+"}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {present.map((person) => (
              <tr key={person.id}>
                <th scope="row">{person.name}</th>
                {places.map((place) => {
                  const value = shown(jotted(person.id, place.round));
                  return (
                    <td key={place.round}>
                      <input
                        key={value}
                        defaultValue={value}
                        inputMode="decimal"
                        aria-label={`${person.name}, ${place.label} (${place.round})`}
                        onBlur={(event) => jot(person.id, place.round, event.target.value)}
                        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {said && <p role="status">{said}</p>}
      {landed.size > 0 && left === 0 && (
        <Button size="xs" onClick={keep}>
          Keep as scores
        </Button>
      )}
    </section>
  );
}
