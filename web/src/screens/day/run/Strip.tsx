// Jotting as it happens: a row an athlete, a cell a round. It works without network.
import { Button } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { memo, useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { jots as jotsQuery } from "../../../api/queries";
import { useMyId } from "../../../api/useMyId";
import { useWrite } from "../../../api/writes";
import { type Moment, positionAt, roundNow } from "../../../clock/moment";
import { clockFace, faceAt } from "../../../clock/play";
import { nextPlace, numberOf } from "../../../offline/jots";
import { keep as enqueue, useWaiting } from "../../../offline/outbox";
import { newKey } from "../../../offline/queue";
import { keptWords } from "../../../session/keptWords";
import styles from "./Strip.module.css";

type Clock = Schemas["ClockOut"];

const LOOK_MS = 200;

const roundOf = (one: { round: number }) => one.round;
const roundsOf = (one: Schemas["Jotted"]) => Object.keys(one.rounds).map(Number);

/** Places behind the named ones where a piece has no last round: one more than was noted. */
function further(strip: Schemas["Strip"], noted: number[]) {
  const most = Math.max(0, ...noted) + (strip.more ? 1 : 0);
  return Array.from({ length: Math.max(0, most - strip.labels.length) }, (_, at) => {
    const round = strip.labels.length + at + 1;
    return { round, label: `${strip.unit === "kg" ? "set" : "round"} ${round}` };
  });
}

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

export const Strip = memo(function Strip({
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
  const pieceKey = clock.key;
  const client = useQueryClient();
  const found = useQuery(jotsQuery(date, pieceKey));
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
  const me = useMyId();
  const waiting = useWaiting(me).flatMap((one) =>
    one.kind === "jot" && one.date === date && one.key === pieceKey && !one.mine
      ? [{ ...one.jot, refused: one.refused, id: one.id }]
      : [],
  );
  const [said, setSaid] = useState("");
  const [unfinished, setUnfinished] = useState<Schemas["Unfinished"][]>([]);
  const left = waiting.length;
  const note = (jot: { person_id: number; round: number; number: number | null }) =>
    enqueue(me, {
      kind: "jot",
      date,
      key: pieceKey,
      mine: false,
      jot: { ...jot, key: newKey(), noted_at: new Date().toISOString() },
    });
  // Once the outbox is empty, what landed is read back.
  useEffect(() => {
    if (left === 0) client.invalidateQueries({ queryKey: keys.jots(date, pieceKey) });
  }, [left, client, date, pieceKey]);
  const keeping = useWrite(
    (people: number[]) =>
      ask(
        api.POST("/api/days/{date}/pieces/{key}/jots/keep", {
          params: { path: { date, key: pieceKey } },
          body: { unfinished: people },
        }),
      ),
    {
      onDone: (kept) => {
        setSaid(keptWords(kept));
        setUnfinished(kept.unfinished);
      },
      onRefused: (refusal) => setSaid(refusal.message),
      touches: () => [keys.scores(date)],
    },
  );
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
    const number = text.trim() ? numberOf(text, strip.unit) : null;
    if (text.trim() && number === null) {
      setSaid(`“${text}”: write a number, or minutes:seconds`);
      return;
    }
    if (number === jotted(person, round)) return;
    setSaid("");
    note({ person_id: person, round, number });
  };
  /** A round is over now: its time is the clock's, less the rounds before. */
  const lap = (person: number) => {
    const rounds: Record<number, number | null> = { ...landed.get(person)?.rounds };
    for (const one of waiting) {
      if (one.person_id === person) rounds[one.round] = one.number ?? null;
    }
    const round = nextPlace(strip, rounds);
    if (round === null) return;
    const before = Array.from({ length: round - 1 }, (_, at) => rounds[at + 1] ?? 0);
    const seconds = roundNow(clock, heatOf(person), moment, before);
    if (seconds > 0) {
      note({ person_id: person, round, number: seconds });
    }
  };
  const laps = strip.unit === "s" && clock.began !== null && !clock.ended;
  const added = further(strip, [
    ...(found.data?.people ?? []).flatMap(roundsOf),
    ...waiting.map(roundOf),
    // A round added on the remote has its place as well.
    ...clock.script.beats.map((beat) => beat.place ?? 0),
  ]);
  const places = [
    ...strip.labels.map((label, at) => ({ round: at + 1, label })),
    ...added,
    ...(strip.extra ? [{ round: 0, label: "+ reps" }] : []),
  ];
  return (
    <section className={styles.stripJots}>
      <h2>
        Jot{" "}
        <small role="status">{left > 0 ? `${left} kept on this device, not landed yet` : ""}</small>
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
                  {laps && (
                    <button
                      type="button"
                      className={styles.lap}
                      aria-label={`${person.name}: a round is over now`}
                      onClick={() => lap(person.id)}
                    >
                      round
                    </button>
                  )}
                </th>
                {places.map((place) => {
                  const value = shown(jotted(person.id, place.round));
                  return (
                    <td key={place.round} data-now={place.round === working || undefined}>
                      <input
                        key={value}
                        defaultValue={value}
                        inputMode="decimal"
                        aria-label={`${person.name}, ${place.label} (${place.round})`}
                        onBlur={(event) => jot(person.id, place.round, event.target.value)}
                        onKeyDown={(event) => event.key === "Enter" && below(event.currentTarget)}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {waiting.map(
        (one) =>
          one.refused && (
            <p key={one.id} role="alert">
              {people.find((person) => person.id === one.person_id)?.name}, {one.round}:{" "}
              {one.refused.words}
            </p>
          ),
      )}
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
      {landed.size > 0 && left === 0 && (
        <Button size="xs" loading={keeping.isPending} onClick={() => keeping.mutate([])}>
          Keep as scores
        </Button>
      )}
    </section>
  );
});
