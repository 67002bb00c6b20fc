// My rounds as they happen, on my phone; they wait here until the network takes them.
import { Button } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { keys } from "../../api/keys";
import { myClock, myJots } from "../../api/queries";
import { roundNow, useMoment } from "../../clock/moment";
import { clockFace } from "../../clock/play";
import { keep as enqueue, useWaiting } from "../../offline/outbox";
import { newKey } from "../../offline/queue";
import { nextPlace, numberOf } from "../../offline/roundTimes";
import { RefusedNote } from "../../training/RefusedNote";
import styles from "./MyStrip.module.css";

export function MyStrip({
  date,
  pieceKey,
  me,
  onEntry,
}: {
  date: string;
  pieceKey: string;
  me: number;
  onEntry: (entry: string) => void;
}) {
  const client = useQueryClient();
  const found = useQuery(myJots(date, pieceKey));
  const clock = useQuery(myClock);
  const moment = useMoment();
  const waiting = useWaiting(me).flatMap((one) =>
    one.kind === "jot" && one.date === date && one.key === pieceKey && one.mine
      ? [{ ...one.jot, refused: one.refused, id: one.id }]
      : [],
  );
  const [typed, setTyped] = useState("");
  const [said, setSaid] = useState("");
  const refused = waiting.filter((one) => one.refused);
  const left = waiting.length - refused.length;
  useEffect(() => {
    if (left === 0) client.invalidateQueries({ queryKey: keys.myJots(date, pieceKey) });
  }, [left, client, date, pieceKey]);
  const strip = found.data?.strip;
  if (!strip) return null;
  const landed = found.data?.people[0];
  const rounds: Record<number, number | null> = { ...landed?.rounds };
  for (const one of waiting) rounds[one.round] = one.number ?? null;
  const told = Object.entries(rounds)
    .filter(([round, number]) => Number(round) > 0 && number !== null)
    .map(([round, number]) => ({ round: Number(round), number: number as number }));
  const next = nextPlace(strip, rounds);
  const last = Math.max(0, ...told.map((one) => one.round));
  const note = (round: number, number: number | null) =>
    enqueue(me, {
      kind: "jot",
      date,
      key: pieceKey,
      mine: true,
      jot: { person_id: me, round, number, key: newKey(), noted_at: new Date().toISOString() },
    });
  const jot = () => {
    const number = numberOf(typed, strip.unit);
    if (number === null) {
      setSaid(`“${typed}”: write a number, or minutes:seconds`);
      return;
    }
    if (next !== null) note(next, number);
    setTyped("");
    setSaid("");
  };
  const lap = () => {
    if (next === null) return;
    const before = Array.from({ length: next - 1 }, (_, at) => rounds[at + 1] ?? 0);
    const seconds = clock.data ? roundNow(clock.data, 1, moment, before) : 0;
    if (seconds > 0) note(next, seconds);
  };
  const running = clock.data?.key === pieceKey && clock.data.date === date && clock.data.began;
  const laps = strip.unit === "s" && running && clock.data?.waves === 1 && !clock.data.ended;
  const takeBack = () => note(last, null);
  return (
    <details className={styles.myStrip}>
      <summary>Round times</summary>
      <p className="num">
        {told
          .map((one) => (strip.unit === "s" ? clockFace(one.number, false) : one.number))
          .join(" · ")}
        {left > 0 && <small> {left} saved on this device, not sent yet</small>}
      </p>
      {next !== null && laps && (
        <Button size="xs" onClick={lap}>
          Lap
        </Button>
      )}
      {next !== null && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            jot();
          }}
        >
          <input
            aria-label={`Enter ${strip.labels[next - 1] ?? `round ${next}`}`}
            placeholder={strip.labels[next - 1] ?? `round ${next}`}
            inputMode="decimal"
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          <Button type="submit" variant="default" size="xs" disabled={!typed.trim()}>
            Enter
          </Button>
        </form>
      )}
      {told.length > 0 && (
        <Button variant="subtle" size="xs" onClick={takeBack}>
          Take the last back
        </Button>
      )}
      {landed?.entry && waiting.length === 0 && (
        <Button variant="subtle" size="xs" onClick={() => onEntry(landed.entry)}>
          Use as my score: {landed.entry}
        </Button>
      )}
      {refused.map((one) => (
        <RefusedNote key={one.id} id={one.id} words={`${one.round}: ${one.refused?.words}`} />
      ))}
      {said && <p role="status">{said}</p>}
    </details>
  );
}
