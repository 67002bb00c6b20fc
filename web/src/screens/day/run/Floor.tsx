// The floor in the hand: a clock that stays, a large tile an athlete, one tap a round or an end.
import { Button } from "@mantine/core";
import { type CSSProperties, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { usePosition } from "../../../clock/frames";
import type { Moment } from "../../../clock/moment";
import { clockFace, faceAt, nextWords } from "../../../clock/play";
import { useCalls, useSilent } from "../../../clock/sounds";
import { useShortcuts } from "../../../ui/hotkeys";
import { useOnline } from "../../../ui/states";
import styles from "./Floor.module.css";
import { FloorHelp } from "./FloorHelp";
import { LateArrival, StopEarly, usePresent, useStopped } from "./FloorPeople";
import { MovementCues } from "./MovementCues";
import { NumberPad } from "./NumberPad";
import { pacing } from "./splits";
import { useFinishes } from "./useFinishes";
import { shownIn, useRoundTimes } from "./useRoundTimes";

type Clock = Schemas["ClockOut"];
type Person = Schemas["FloorPerson"];
type Press = NonNullable<Schemas["PressForm"]["press"]>;

const HOLD_MS = 600;
const SWIPE_PX = 80;

/** The clock and its keys: it stays above the tiles. */
function ClockStrip({
  clock,
  moment,
  press,
  undo,
  undoes,
  redo,
}: {
  clock: Clock;
  moment: Moment;
  press: (what: Press) => void;
  undo: () => void;
  /** What undo takes back, in words. */
  undoes: string;
  redo: () => void;
}) {
  const position = usePosition(clock, moment);
  const [silent] = useSilent();
  const call = useCalls(clock, moment, silent);
  const stand = faceAt(clock, position);
  const { beat, next } = stand;
  const over = clock.ended || stand.phase === "over";
  const running = clock.began !== null && !over;
  const started = clock.began !== null || clock.held !== null;
  const keys = useMemo(
    () => ({
      " ": () => !over && press(started ? (running ? "pause" : "resume") : "start"),
      n: () => started && !over && press("skip"),
      u: undo,
    }),
    [over, press, running, started, undo],
  );
  useShortcuts(keys);
  const word = over
    ? "over"
    : clock.held !== null
      ? "paused"
      : stand.phase === "playing"
        ? beat?.kind === "rest"
          ? "rest"
          : call || "work"
        : stand.phase === "waiting"
          ? "ready"
          : "get ready";
  return (
    <div className={styles.strip} data-state={clock.held !== null ? "held" : beat?.kind}>
      <p className={`${styles.time} num`} role="timer">
        {stand.phase === "waiting" ? "–:––" : clockFace(stand.shown, stand.down)}
      </p>
      <p className={styles.word}>
        <b>{word}</b>
        {beat?.round && (
          <span className="num">
            {" "}
            round {beat.round}
            {beat.rounds && !clock.script.endless ? ` of ${beat.rounds}` : ""}
          </span>
        )}
        <small>{beat ? beat.lines.join(" · ") : next ? nextWords(beat, next) : ""}</small>
      </p>
      <div className={styles.keys}>
        {!started && <Button onClick={() => press("start")}>Start</Button>}
        {running && <Button onClick={() => press("pause")}>Pause</Button>}
        {clock.held !== null && !over && <Button onClick={() => press("resume")}>Resume</Button>}
        {started && !over && (
          <Button variant="default" onClick={() => press("skip")}>
            {beat?.length_s === null ? "Done, next" : "Next"}
          </Button>
        )}
        <Button variant="default" onClick={undo}>
          Undo {undoes}
        </Button>
        {clock.redo && (
          <Button variant="default" onClick={redo}>
            Redo {clock.redo}
          </Button>
        )}
      </div>
    </div>
  );
}

/** A press, and a longer one that takes back. A finger that slides away does neither. */
export function useHold(tap: () => void, hold: () => void) {
  const timer = useRef<number>(undefined);
  const held = useRef(false);
  const begin = () => {
    held.current = false;
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => {
      held.current = true;
      hold();
    }, HOLD_MS);
  };
  const end = () => window.clearTimeout(timer.current);
  useEffect(() => end, []);
  return {
    onPointerDown: begin,
    onPointerUp: end,
    onPointerLeave: end,
    onPointerCancel: end,
    onContextMenu: (event: React.MouseEvent) => event.preventDefault(),
    // A click comes after the pointer is up, from a key as well: not after a long press.
    onClick: () => {
      if (!held.current) tap();
      held.current = false;
    },
  };
}

type Does = "round" | "finished" | null;
/** A tap on somebody's tile, and the press of the clock that was the newest then. */
type Tap = { person: Person; does: Exclude<Does, null>; step: number };
const ENDS: ReadonlySet<string> = new Set(["finish", "unfinish"]);

function Tile({
  person,
  version,
  does,
  words,
  ended,
  trouble,
  onTap,
  onHold,
  onPad,
}: {
  person: Person;
  version: string;
  does: Does;
  words: string;
  ended: boolean;
  trouble?: string;
  onTap: () => void;
  onHold: () => void;
  onPad: () => void;
}) {
  const pressing = useHold(onTap, onHold);
  const what = does === null ? words || "nothing to press" : `${does} now`;
  return (
    <li className={styles.tile} data-ended={ended || undefined}>
      <button type="button" className={styles.name} {...pressing}>
        <b>
          {person.name}
          <span className={styles.unseen}>: {what}; hold to take back.</span>
        </b>
        {version && <small className={styles.version}>{version}</small>}
        <span className="num">{words}</span>
        {trouble && <small role="alert">{trouble}</small>}
      </button>
      <button
        type="button"
        className={styles.pad}
        aria-label={`${person.name}: write a number, or stop early`}
        onClick={onPad}
      >
        ⋯
      </button>
    </li>
  );
}

export function Floor({
  date,
  clock,
  moment,
  press,
  undo,
  redo,
  people,
  here,
  heatOf,
  tiers,
  loadSteps,
  pieces,
  onPiece,
  onClose,
}: {
  date: string;
  clock: Clock;
  moment: Moment;
  press: (what: Press) => void;
  undo: () => void;
  redo: () => void;
  people: readonly Person[];
  here: readonly number[];
  heatOf: (person: number) => number;
  tiers: readonly string[];
  loadSteps: readonly number[];
  pieces: readonly Schemas["PieceOutline"][];
  onPiece: (key: string) => void;
  onClose: () => void;
}) {
  const jots = useRoundTimes(date, clock, moment, heatOf);
  const ends = useFinishes(date, clock, moment, heatOf);
  const [padOf, setPadOf] = useState<Person | null>(null);
  const [saying, setSaying] = useState(false);
  const online = useOnline();
  const { strip } = jots;
  const running = clock.began !== null && !clock.ended;
  const at = pieces.findIndex((piece) => piece.key === clock.key);
  // A piece that runs is not left by a slip of the hand.
  const go = useCallback(
    (by: number) => {
      const next = pieces[at + by];
      if (next && !running) onPiece(next.key);
    },
    [at, onPiece, pieces, running],
  );
  const keys = useMemo(
    () => ({ ArrowLeft: () => go(-1), ArrowRight: () => go(1), Escape: onClose }),
    [go, onClose],
  );
  useShortcuts(keys);
  const from = useRef<number | null>(null);

  const rounds = strip && strip.labels.length > 0 && !strip.more ? strip.labels.length : null;
  const told = (person: number) => {
    const noted = Object.entries(jots.roundsFor(person)).flatMap(([round, number]) =>
      number !== null && round !== "0" ? [{ round: Number(round), number }] : [],
    );
    noted.sort((a, b) => a.round - b.round);
    return noted;
  };
  const versionOf = (person: Person) =>
    [person.tier > 0 ? tiers[person.tier] : "", ...person.limits].filter(Boolean).join(" · ");

  const order = useRef<number[]>([]);
  const present = usePresent(people, here, clock.class_id, order);
  const stopped = useStopped(date, clock.key);
  const [stopping, setStopping] = useState<Person | null>(null);
  const heats = clock.waves > 1 ? Array.from({ length: clock.waves }, (_, n) => n + 1) : [1];

  const takeBack = (person: number) => {
    if (ends.endOf(person) !== undefined) {
      ends.press(person, "unfinish");
      // The last round ended with it.
      if (rounds !== null && told(person).length >= rounds) jots.back(person);
    } else {
      jots.back(person);
    }
  };
  // The newest thing done on this screen is taken back first: a tap, or else a press of the clock.
  const [taps, setTaps] = useState<readonly Tap[]>([]);
  const tapped = taps.at(-1);
  const newest =
    tapped && (clock.step <= tapped.step || ENDS.has(clock.press)) ? tapped : undefined;
  const undoNewest = () => {
    if (!newest) return undo();
    takeBack(newest.person.id);
    setTaps(taps.slice(0, -1));
  };

  const tile = (person: Person) => {
    const noted = told(person.id);
    const end = ends.endOf(person.id);
    const all = rounds !== null && noted.length >= rounds;
    const laps = jots.laps && !all;
    // The last round of a piece for time is its end: one tap, one time.
    const lastRound = rounds !== null && noted.length === rounds - 1 && clock.script.one_by_one;
    const does: Does =
      end !== undefined
        ? null
        : laps && !lastRound
          ? "round"
          : clock.script.one_by_one
            ? "finished"
            : null;
    const last = noted.at(-1);
    const reason = stopped.reasonOf(person.id);
    const out = reason !== undefined;
    const words = [
      out ? `stopped${reason ? `: ${reason}` : ""}` : "",
      end ?? "",
      last && strip
        ? `${noted.length}${rounds ? ` of ${rounds}` : ""} · ${shownIn(strip.unit, last.number)}`
        : "",
      strip?.even ? pacing(noted.map((one) => one.number)) : "",
    ]
      .filter(Boolean)
      .join(" · ");
    const tap = () => {
      if (does === null || out) return;
      const now = moment?.() ?? null;
      if (laps) jots.lap(person.id, now);
      if (does === "finished") ends.press(person.id, "finish", now);
      setTaps([...taps, { person, does, step: clock.step }]);
    };
    const hold = () => {
      if (out) return stopped.goOn(person);
      takeBack(person.id);
      setTaps(taps.filter((one) => one !== taps.findLast((last) => last.person.id === person.id)));
    };
    return (
      <Tile
        key={person.id}
        person={person}
        version={versionOf(person)}
        does={out ? null : does}
        words={words}
        ended={end !== undefined || out}
        trouble={
          ends.refusedOf(person.id) ??
          jots.refused.find((one) => one.person_id === person.id)?.refused?.words
        }
        onTap={tap}
        onHold={hold}
        onPad={() => (strip ? setPadOf(person) : setStopping(person))}
      />
    );
  };

  return (
    <section
      className={styles.floor}
      aria-label="Floor mode"
      onPointerDown={(event) => {
        from.current = event.clientX;
      }}
      onPointerUp={(event) => {
        const by = from.current === null ? 0 : event.clientX - from.current;
        from.current = null;
        if (Math.abs(by) >= SWIPE_PX) go(by < 0 ? 1 : -1);
      }}
    >
      <ClockStrip
        clock={clock}
        moment={moment}
        press={press}
        undo={undoNewest}
        undoes={newest ? `${newest.person.name}: ${newest.does}` : clock.press}
        redo={redo}
      />
      <div className={styles.bar}>
        <Button
          variant="default"
          aria-label="Piece before"
          disabled={running || at <= 0}
          onClick={() => go(-1)}
        >
          ‹
        </Button>
        <h1>{clock.script.title}</h1>
        <Button
          variant="default"
          aria-label="Next piece"
          disabled={running || at < 0 || at >= pieces.length - 1}
          onClick={() => go(1)}
        >
          ›
        </Button>
        <Button variant="default" aria-pressed={saying} onClick={() => setSaying(!saying)}>
          What to say
        </Button>
        <LateArrival
          people={people}
          here={present.map((one) => one.id)}
          date={date}
          classId={clock.class_id}
        />
        <FloorHelp />
        {!online && (
          <span role="status" className={styles.offline}>
            Offline: taps are kept here
          </span>
        )}
        {jots.left > 0 && (
          <span role="status" className="num">
            {jots.left} saved on this device, not sent yet
          </span>
        )}
        <Button className={styles.close} variant="default" onClick={onClose}>
          Exit floor mode
        </Button>
      </div>
      {saying && (
        <div className={styles.say}>
          <MovementCues clock={clock} names={clock.script.say.map((one) => one.movement)} />
        </div>
      )}
      {(jots.said || ends.said) && <p role="status">{jots.said || ends.said}</p>}
      {present.length === 0 && <p>Nobody is here yet: add the athletes who are.</p>}
      <div className={styles.heats}>
        {heats.map((heat) => {
          const own = present.filter((person) => heats.length < 2 || heatOf(person.id) === heat);
          return (
            <section key={heat} aria-label={heats.length > 1 ? `Heat ${heat}` : "Everybody"}>
              {heats.length > 1 && <h2>Heat {heat}</h2>}
              <ul className={styles.tiles} style={{ "--people": own.length } as CSSProperties}>
                {own.map(tile)}
              </ul>
            </section>
          );
        })}
      </div>
      {padOf && strip && (
        <NumberPad
          key={padOf.id}
          name={padOf.name}
          unit={strip.unit}
          loadSteps={loadSteps}
          places={jots.places}
          noted={jots.roundsFor(padOf.id)}
          onNote={(round, text) => jots.jot(padOf.id, round, text)}
          onStop={() => {
            setStopping(padOf);
            setPadOf(null);
          }}
          onClose={() => setPadOf(null)}
        />
      )}
      {stopping && (
        <StopEarly
          name={stopping.name}
          onStop={(reason) => stopped.stop(stopping, reason)}
          onClose={() => setStopping(null)}
        />
      )}
      <div className={styles.keys}>
        {jots.ready && !clock.script.one_by_one && (
          <Button loading={jots.keeping.isPending} onClick={() => jots.keeping.mutate([])}>
            Save as scores
          </Button>
        )}
        {clock.script.one_by_one && (ends.count > 0 || jots.ready) && (
          <Button
            loading={ends.keeping.isPending}
            disabled={ends.waits || jots.left > 0}
            onClick={() => ends.keeping.mutate(undefined)}
          >
            Save as scores
          </Button>
        )}
      </div>
    </section>
  );
}
