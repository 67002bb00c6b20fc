// My rounds as they happen, on my phone; they wait here until the network takes them.
import { Button } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { myClock, myJots } from "../api/queries";
import { roundNow, useMoment } from "../parts/moment";
import { note, numberOf, useOutbox } from "../parts/outbox";
import { clockFace } from "../parts/play";

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
  const waiting = useOutbox(date, pieceKey).filter((one) => one.mine);
  const [typed, setTyped] = useState("");
  const [said, setSaid] = useState("");
  const left = waiting.length;
  useEffect(() => {
    if (left === 0) client.invalidateQueries({ queryKey: ["my-jots", date, pieceKey] });
  }, [left, client, date, pieceKey]);
  const strip = found.data?.strip;
  if (!strip) return null;
  const landed = found.data?.people[0];
  const rounds: Record<number, number | null> = { ...landed?.rounds };
  for (const one of waiting) rounds[one.round] = one.number ?? null;
  const told = Object.entries(rounds)
    .filter(([round, number]) => Number(round) > 0 && number !== null)
    .map(([, number]) => number as number);
  const next = told.length + 1;
  const full = !strip.more && next > strip.labels.length;
  const jot = () => {
    const number = numberOf(typed);
    if (number === null) {
      setSaid(`“${typed}”: write a number, or minutes:seconds`);
      return;
    }
    note({ date, piece: pieceKey, person_id: me, round: next, number, mine: true });
    setTyped("");
    setSaid("");
  };
  const lap = () => {
    const seconds = clock.data ? roundNow(clock.data, 1, moment, told) : 0;
    if (seconds > 0)
      note({ date, piece: pieceKey, person_id: me, round: next, number: seconds, mine: true });
  };
  const running = clock.data?.key === pieceKey && clock.data.date === date && clock.data.began;
  const laps = strip.unit === "s" && running && clock.data?.waves === 1 && !clock.data.ended;
  const takeBack = () =>
    note({ date, piece: pieceKey, person_id: me, round: next - 1, number: null, mine: true });
  return (
    <details className="my-strip">
      <summary>Jot round by round</summary>
      <p className="num">
        {told.map((number) => (strip.unit === "s" ? clockFace(number, false) : number)).join(" · ")}
        {left > 0 && <small> {left} kept here, not landed yet</small>}
      </p>
      {!full && laps && (
        <Button size="xs" onClick={lap}>
          A round is over now
        </Button>
      )}
      {!full && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            jot();
          }}
        >
          <input
            aria-label={`Jot ${strip.labels[next - 1] ?? `round ${next}`}`}
            placeholder={strip.labels[next - 1] ?? `round ${next}`}
            inputMode="decimal"
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          <Button type="submit" variant="default" size="xs" disabled={!typed.trim()}>
            Jot
          </Button>
        </form>
      )}
      {told.length > 0 && (
        <Button variant="subtle" size="xs" onClick={takeBack}>
          Take the last back
        </Button>
      )}
      {landed?.entry && left === 0 && (
        <Button variant="subtle" size="xs" onClick={() => onEntry(landed.entry)}>
          Use as my score: {landed.entry}
        </Button>
      )}
      {said && <p role="status">{said}</p>}
    </details>
  );
}
