// What is noted of a piece as it happens, round by round: kept on this device until it has landed.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { jots as jotsQuery } from "../../../api/queries";
import { useMyId } from "../../../api/useMyId";
import { useWrite } from "../../../api/writes";
import { type Moment, roundNow } from "../../../clock/moment";
import { clockFace } from "../../../clock/play";
import { keep as enqueue, useWaiting } from "../../../offline/outbox";
import { drop, newKey } from "../../../offline/queue";
import { nextPlace, numberOf } from "../../../offline/roundTimes";
import { savedMessage } from "../../../training/savedMessage";

type Clock = Schemas["ClockOut"];
type StripOf = Schemas["Strip"];
type Rounds = Record<number, number | null>;
export type Place = { round: number; label: string };

const roundsOf = (one: Schemas["Jotted"]) => Object.keys(one.rounds).map(Number);

/** Places behind the named ones where a piece has no last round: one more than was noted. */
function further(strip: StripOf, noted: number[]): Place[] {
  const most = Math.max(0, ...noted) + (strip.more ? 1 : 0);
  return Array.from({ length: Math.max(0, most - strip.labels.length) }, (_, at) => {
    const round = strip.labels.length + at + 1;
    return { round, label: `${strip.unit === "kg" ? "set" : "round"} ${round}` };
  });
}

/** A number as the strip's unit shows it. */
export const shownIn = (unit: StripOf["unit"], number: number | null): string =>
  number === null ? "" : unit === "s" ? clockFace(number, false) : String(number);

export function useRoundTimes(
  date: string,
  clock: Clock,
  moment: Moment,
  heatOf: (person: number) => number,
) {
  const pieceKey = clock.key;
  const client = useQueryClient();
  const found = useQuery(jotsQuery(date, pieceKey));
  const me = useMyId();
  const [said, setSaid] = useState("");
  const [unfinished, setUnfinished] = useState<Schemas["Unfinished"][]>([]);
  const waiting = useWaiting(me).flatMap((one) =>
    one.kind === "jot" && one.date === date && one.key === pieceKey && !one.mine
      ? [{ ...one.jot, refused: one.refused, id: one.id }]
      : [],
  );
  const refused = waiting.filter((one) => one.refused);
  const left = waiting.length - refused.length;
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
        setSaid(savedMessage(kept));
        setUnfinished(kept.unfinished);
      },
      onRefused: (refusal) => setSaid(refusal.message),
      touches: () => [keys.scores(date)],
    },
  );
  const strip = found.data?.strip ?? null;
  const landed = new Map(found.data?.people.map((one) => [one.person_id, one]));
  const note = (jot: { person_id: number; round: number; number: number | null }) =>
    enqueue(me, {
      kind: "jot",
      date,
      key: pieceKey,
      mine: false,
      jot: { ...jot, key: newKey(), noted_at: new Date().toISOString() },
    });
  /** Everything noted of somebody, what waits over what has landed. */
  const roundsFor = (person: number): Rounds => {
    const rounds: Rounds = { ...landed.get(person)?.rounds };
    for (const one of waiting) {
      if (one.person_id === person) rounds[one.round] = one.number ?? null;
    }
    return rounds;
  };
  /** Note what was typed for a round; nothing takes it back. False where it cannot be read. */
  const jot = (person: number, round: number, text: string): boolean => {
    const number = text.trim() && strip ? numberOf(text, strip.unit) : null;
    if (text.trim() && number === null) {
      setSaid(`“${text}”: write a number, or minutes:seconds`);
      return false;
    }
    setSaid("");
    if (number !== (roundsFor(person)[round] ?? null)) note({ person_id: person, round, number });
    return true;
  };
  /** Remove an athlete's last round time; a refused one returns to the value before it. */
  const back = (person: number) => {
    const own = refused.filter((one) => one.person_id === person);
    for (const one of own) drop(one.id);
    const rounds = roundsFor(person);
    const noted = Object.keys(rounds).filter((at) => at !== "0" && rounds[Number(at)] !== null);
    if (own.length === 0 && noted.length > 0) jot(person, Math.max(...noted.map(Number)), "");
  };
  /** A round is over (now, or at a moment): its time is the clock's, less the rounds before. */
  const lap = (person: number, at: number | null = moment?.() ?? null) => {
    const rounds = roundsFor(person);
    const round = strip && nextPlace(strip, rounds);
    if (!round) return;
    const before = Array.from({ length: round - 1 }, (_, at) => rounds[at + 1] ?? 0);
    const seconds = roundNow(clock, heatOf(person), at === null ? null : () => at, before);
    if (seconds > 0) note({ person_id: person, round, number: seconds });
  };
  const added = strip
    ? further(strip, [
        ...(found.data?.people ?? []).flatMap(roundsOf),
        ...waiting.map((one) => one.round),
        // A round added on the remote has its place as well.
        ...clock.script.beats.map((beat) => beat.place ?? 0),
      ])
    : [];
  const places: Place[] = strip
    ? [
        ...strip.labels.map((label, at) => ({ round: at + 1, label })),
        ...added,
        ...(strip.extra ? [{ round: 0, label: "+ reps" }] : []),
      ]
    : [];
  return {
    strip,
    places,
    refused,
    left,
    said,
    unfinished,
    keeping,
    /** Whether a press can time a round: where seconds are noted and the clock runs. */
    laps: strip?.unit === "s" && clock.began !== null && !clock.ended,
    /** Whether scores can be kept of what is noted: it has landed, and nothing was refused. */
    ready: landed.size > 0 && waiting.length === 0,
    roundsFor,
    jot,
    back,
    lap,
  };
}
