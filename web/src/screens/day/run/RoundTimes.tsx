// Jotting as it happens: a row an athlete, a cell a round. It works without network.
import { Button } from "@mantine/core";
import { memo, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { type Moment, positionAt } from "../../../clock/moment";
import { faceAt } from "../../../clock/play";
import { RefusedNote } from "../../../training/RefusedNote";
import styles from "./RoundTimes.module.css";
import { shownIn, useRoundTimes } from "./useRoundTimes";

type Clock = Schemas["ClockOut"];

const LOOK_MS = 200;

/** The place of the strip that is being worked, renewed when it changes. */
function usePlace(clock: Clock, moment: Moment): number | null {
  const [place, setPlace] = useState<number | null>(null);
  useEffect(() => {
    const look = () =>
      setPlace(moment ? (faceAt(clock, positionAt(clock, moment())).beat?.place ?? null) : null);
    look();
    const timer = window.setInterval(look, LOOK_MS);
    return () => window.clearInterval(timer);
  }, [clock, moment]);
  return place;
}

/** On Enter: the same round of the next athlete. */
function below(cell: HTMLInputElement): void {
  const at = cell.closest("td")?.cellIndex ?? 0;
  const row = cell.closest("tr")?.nextElementSibling as HTMLTableRowElement | null;
  const next = row?.cells[at]?.querySelector("input");
  if (next) next.focus();
  else cell.blur();
}

/** A number that is typed: what arrives meanwhile is shown once the typing is done. */
export function Field({
  value,
  label,
  onDone,
}: {
  value: string;
  label: string;
  onDone: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      value={typed ?? value}
      inputMode="decimal"
      aria-label={label}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        if (typed !== null) onDone(typed);
        setTyped(null);
      }}
      onKeyDown={(event) => event.key === "Enter" && below(event.currentTarget)}
    />
  );
}

export const RoundTimes = memo(function RoundTimes({
  date,
  clock,
  moment,
  heatOf,
  people,
  here,
}: {
  date: string;
  clock: Clock;
  moment: Moment;
  heatOf: (person: number) => number;
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
}) {
  const jots = useRoundTimes(date, clock, moment, heatOf);
  const working = usePlace(clock, moment);
  const box = useRef<HTMLDivElement>(null);
  // The column at work comes into view.
  useEffect(() => {
    if (working === null) return;
    const [name, column] = ["th", "th[data-now]"].map((one) =>
      box.current?.querySelector<HTMLElement>(one),
    );
    if (box.current && name && column) {
      box.current.scrollLeft = column.offsetLeft - name.offsetWidth;
    }
  }, [working]);
  const { strip, places, refused, left, said, unfinished, keeping } = jots;
  if (!strip) return null;
  const present = people.filter((person) => here.includes(person.id));
  return (
    <section className={styles.stripJots}>
      <h2>
        Round times{" "}
        <small role="status">{left > 0 ? `${left} saved on this device, not sent yet` : ""}</small>
      </h2>
      <div className={styles.stripScroll} ref={box}>
        <table>
          <thead>
            <tr>
              <th>{strip.unit === "s" ? "time of each" : strip.unit}</th>
              {places.map((place) => (
                <th
                  key={place.round}
                  title={place.label}
                  data-now={place.round === working || undefined}
                >
                  {place.round || "+"}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {present.map((person) => (
              <tr key={person.id}>
                <th scope="row">
                  {person.name}
                  {jots.laps && (
                    <button
                      type="button"
                      className={styles.lap}
                      aria-label={`${person.name}: a round is over now`}
                      onClick={() => jots.lap(person.id)}
                    >
                      round
                    </button>
                  )}
                </th>
                {places.map((place) => {
                  const value = shownIn(strip.unit, jots.roundsFor(person.id)[place.round] ?? null);
                  return (
                    <td key={place.round} data-now={place.round === working || undefined}>
                      <Field
                        value={value}
                        label={`${person.name}, ${place.label} (${place.round})`}
                        onDone={(text) => jots.jot(person.id, place.round, text)}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {refused.map((one) => (
        <RefusedNote
          key={one.id}
          id={one.id}
          words={`${people.find((person) => person.id === one.person_id)?.name}, ${one.round}: ${one.refused?.words}`}
        />
      ))}
      {said && <p role="status">{said}</p>}
      {unfinished.length > 0 && (
        <div className="unfinished" role="alert">
          <p>Not kept yet, places are missing:</p>
          <ul>
            {unfinished.map((one) => (
              <li key={one.person_id}>
                {one.name}: {one.entry}, without {one.missing}{" "}
                <Button
                  size="compact-sm"
                  variant="default"
                  onClick={() => keeping.mutate([one.person_id])}
                >
                  Keep it as it is
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {/* A piece for time is saved with its ends, under Finished. */}
      {jots.ready && !clock.script.one_by_one && (
        <Button size="xs" loading={keeping.isPending} onClick={() => keeping.mutate([])}>
          Save as scores
        </Button>
      )}
    </section>
  );
});
