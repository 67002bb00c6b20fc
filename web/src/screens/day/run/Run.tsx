// The coach's remote: the time, what now, what next, who is here.
import { Button, SegmentedControl, Select } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useLive } from "../../../api/live";
import {
  clock as clockQuery,
  floor as floorQuery,
  gym as gymQuery,
  lanes as lanesQuery,
} from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { useMs, usePosition } from "../../../clock/frames";
import { type Moment, useMoment } from "../../../clock/moment";
import { clockFace, faceAt, nextWords } from "../../../clock/play";
import { CALLS, useCalls, useSilent } from "../../../clock/sounds";
import { useWakeLock } from "../../../clock/wakeLock";
import { MovementIcon } from "../../../training/MovementIcon";
import { TellClass } from "../../../training/TellClass";
import { useConfirm } from "../../../ui/Confirm";
import fieldStyles from "../../../ui/fields.module.css";
import { useShortcuts } from "../../../ui/hotkeys";
import { Empty, Failed, Waiting } from "../../../ui/states";
import wordStyles from "../../../ui/words.module.css";
import { Attendance } from "./Attendance";
import { Bookings } from "./Bookings";
import { BriefingKeys } from "./BriefingKeys";
import { ClockOff } from "./ClockOff";
import { Finishes } from "./Finishes";
import { HeatsAndTeams } from "./HeatsAndTeams";
import { Kit } from "./Kit";
import { MovementCues } from "./MovementCues";
import { Limits, PieceTiles } from "./PieceTiles";
import { RoundTimes } from "./RoundTimes";
import styles from "./Run.module.css";
import { ScreenLinks } from "./ScreenLinks";
import { useClockRemote } from "./useClockRemote";

const Floor = lazy(() => import("./Floor").then((m) => ({ default: m.Floor })));
const FloorStart = lazy(() => import("./FloorStart").then((m) => ({ default: m.FloorStart })));

/** How many presses wait for the connection, in words. */
function Waits({ count }: { count: number }) {
  if (!count) return null;
  return (
    <p role="status" className={wordStyles.cellWords}>
      No connection: {count === 1 ? "1 press waits" : `${count} presses wait`} and will count from
      when you pressed.
    </p>
  );
}

/** Presses whose undoing stops a clock that runs. */
const STOPS: ReadonlySet<string> = new Set(["start", "restart", "resume", "load"]);

type Clock = Schemas["ClockOut"];
type Press = NonNullable<Schemas["PressForm"]["press"]>;
type More = Partial<Schemas["PressForm"]>;

/** The clock of the class: the time, what now, what next, and one act that goes on. */
function Cockpit({
  clock,
  piece,
  after,
  moment,
  press,
  undo,
  redo,
}: {
  clock: Clock;
  /** The piece on the clock, and the one that comes after it. */
  piece: Schemas["PieceOutline"] | undefined;
  after: Schemas["PieceOutline"] | undefined;
  moment: Moment;
  press: (what: Press, more?: More) => void;
  undo: () => void;
  redo: () => void;
}) {
  const [silent, flip] = useSilent();
  const position = usePosition(clock, moment);
  const ms = useMs<HTMLElement>(clock, moment);
  const call = useCalls(clock, moment, silent);
  const stand = faceAt(clock, position);
  const { beat, next } = stand;
  const started = clock.began !== null || clock.held !== null;
  const over = clock.ended || stand.phase === "over";
  const running = clock.began !== null && !over;
  const keys = useMemo(
    () => ({
      " ": () => !over && press(started ? (running ? "pause" : "resume") : "start"),
      n: () => started && !over && press("skip"),
      u: undo,
    }),
    [over, press, running, started, undo],
  );
  useShortcuts(keys);
  const open = beat?.length_s === null;
  const length = piece?.clock.total_s;
  return (
    <section className={styles.cockpit} aria-label="Clock" ref={ms}>
      <div className={styles.remoteFace} data-state={clock.held !== null ? "held" : beat?.kind}>
        <p className={`${styles.remoteTime} num`} role="timer" data-field="time">
          {stand.phase === "waiting"
            ? length
              ? clockFace(length, true)
              : "–:––"
            : clockFace(stand.shown, stand.down)}
        </p>
        <p className={styles.remoteWord} data-field="state">
          {over
            ? "over"
            : clock.held !== null
              ? "paused"
              : stand.phase === "playing"
                ? beat?.kind === "rest"
                  ? "rest"
                  : call || "work"
                : stand.phase === "waiting"
                  ? "ready"
                  : "get ready"}
          {clock.waves > 1 && beat && <span className="num"> · heat {stand.heat + 1}</span>}
          {beat?.round && (
            <span className="num">
              {" "}
              · round {beat.round}
              {beat.rounds && !clock.script.endless ? ` of ${beat.rounds}` : ""}
              {beat.member ? ` · partner ${beat.member}` : ""}
            </span>
          )}
        </p>
        {piece && !started && (
          <p className={styles.remoteNext}>
            {piece.title}, {piece.format}
          </p>
        )}
        {beat && (
          <ul className={styles.remoteNow}>
            {beat.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
        {next && (
          <p className={styles.remoteNext}>
            <MovementIcon pattern={next.icon} size={26} /> {nextWords(beat, next)}
          </p>
        )}
        {after && (!started || over) && (
          <p className={styles.remoteNext}>
            After it: {after.title}, {after.format}
          </p>
        )}
      </div>
      <div className={styles.acts}>
        {!started && (
          <Button size="xl" onClick={() => press("start")}>
            Start (10 s countdown)
          </Button>
        )}
        {running && (
          <Button size="xl" onClick={() => press("pause")}>
            Pause
          </Button>
        )}
        {clock.held !== null && !over && (
          <Button size="xl" onClick={() => press("resume")}>
            Resume
          </Button>
        )}
        {started && !over && (
          <Button size="xl" variant="default" onClick={() => press("skip")}>
            {open ? (next ? "Done, next" : "All done") : "Next"}
          </Button>
        )}
        <span className={styles.apart}>
          {started && (
            <Button variant="default" onClick={() => press("restart")}>
              Restart
            </Button>
          )}
          <Button variant="default" onClick={undo}>
            Undo {clock.press}
          </Button>
          {clock.redo && (
            <Button variant="default" onClick={redo}>
              Redo {clock.redo}
            </Button>
          )}
        </span>
      </div>
      <div className={styles.remoteKeys}>
        {clock.script.add_words && (
          <Button variant="default" onClick={() => press("add round")}>
            Add {clock.script.add_words}
          </Button>
        )}
        {clock.script.beats.some((one) => one.kind === "rest") && (
          <Button variant="default" disabled={!started} onClick={() => press("longer rest")}>
            0:15 more rest
          </Button>
        )}
        {clock.waves > clock.heats.length && (
          <Button variant="default" disabled={!started} onClick={() => press("start heat")}>
            Start heat {clock.heats.length + 1}
          </Button>
        )}
        {!running && clock.briefing.length > 0 && <BriefingKeys clock={clock} press={press} />}
        <Button
          variant="subtle"
          onClick={() => press(clock.layout === "board" ? "clock" : "board")}
        >
          Screens: show the {clock.layout === "board" ? "clock" : "board"}
        </Button>
      </div>
      {!started && (
        <aside className={wordStyles.safety} aria-label="Safety">
          <p>
            <b>{clock.pain}</b>
          </p>
          {clock.cautions.map((caution) => (
            <p key={caution}>{caution}</p>
          ))}
        </aside>
      )}
      <details className={styles.calls}>
        <summary>Sounds on this device</summary>
        {CALLS.map(([kind, label]) => (
          <label key={kind}>
            <input type="checkbox" checked={!silent.has(kind)} onChange={() => flip(kind)} />{" "}
            {label}
          </label>
        ))}
      </details>
    </section>
  );
}

/** Cues for the movements that are on now and come next. */
function Cues({ clock, moment }: { clock: Clock; moment: Moment }) {
  const { beat, next } = faceAt(clock, usePosition(clock, moment));
  const names = [...(beat?.movements ?? []), ...(next?.movements ?? [])];
  return <MovementCues clock={clock} names={names} />;
}

const TABS = [
  { value: "rounds", label: "Round times" },
  { value: "present", label: "Present" },
  { value: "heats", label: "Heats" },
  { value: "movements", label: "Movements" },
];

export function Run({
  date,
  pieces,
  selected,
  onSelect,
}: {
  date: string;
  pieces: readonly Schemas["PieceOutline"][];
  selected: string | null;
  onSelect: (key: string) => void;
}) {
  const client = useQueryClient();
  const floor = useQuery(floorQuery(date));
  // The floor stays open on its class through a reload: a phone may drop the page at any time.
  const [search, setSearch] = useSearchParams();
  const onFloor = search.has("floor");
  const [tab, setTab] = useState("rounds");
  const [start, setStart] = useState<string | null>(search.get("floor") || null);
  const setOnFloor = (of: string | null) =>
    setSearch(
      (now) => {
        if (of === null) now.delete("floor");
        else now.set("floor", of);
        return now;
      },
      { replace: true },
    );
  const tiers = useQuery(gymQuery).data?.tiers ?? [];
  const classes = floor.data?.classes ?? [];
  // Chosen once, so that the remote does not leave a class that runs on.
  const first = useRef<string | null>(null);
  first.current ??= floor.data?.nearest ?? null;
  const held = classes.find((one) => one.start === (start ?? first.current)) ?? null;
  const id = held?.id ?? null;
  const clock = useQuery(clockQuery(id));
  const moment = useMoment();
  const lanes = useQuery({
    ...lanesQuery(date, id ?? 0, clock.data?.key ?? "", "even teams"),
    enabled: id !== null && (clock.data?.waves ?? 1) > 1,
  });
  const heats = lanes.data?.heats;
  const waves = clock.data?.waves ?? 1;
  const heatOf = useCallback(
    (person: number) =>
      waves < 2
        ? 1
        : (heats?.find((one) => one.lanes.some((lane) => lane.id === person))?.number ?? 1),
    [heats, waves],
  );
  const remote = useClockRemote(id, moment);
  const { problem, setProblem, send } = remote;
  // What waits is sent before the clock is read anew: it would show that nothing was pressed.
  const again = () =>
    remote.sendWaiting().then(() => client.invalidateQueries({ queryKey: keys.classes }));
  const connected = useLive("/api/live", {
    clock: (said) => {
      if (said.class_id === id && !remote.waits) {
        client.invalidateQueries({ queryKey: keys.clock(id) });
      }
    },
    class: () => {
      client.invalidateQueries({ queryKey: keys.floor(date) });
      client.invalidateQueries({ queryKey: keys.lanes(date) });
      client.invalidateQueries({ queryKey: keys.classes });
    },
    jots: (said) =>
      said.date === date &&
      client.invalidateQueries({ queryKey: keys.jots(date, String(said.piece)) }),
    // With the board the piece on the clock may have changed.
    day: (said) => said.date === date && again(),
    again,
  });

  const [question, confirm] = useConfirm();
  const runs = clock.data ? clock.data.began !== null && !clock.data.ended : false;
  const title = clock.data?.script.title ?? "";
  /** What stops or replaces a clock that runs is asked about first. */
  const guarded = (what: string, verb: string, act: () => void) => {
    if (!runs) return act();
    confirm({ title: `${title} is running`, text: what, verb, act });
  };
  const press = (what: Press, more: More = {}) => {
    const act = () => send({ heat: 1, ...more, press: what });
    if (what !== "restart") return act();
    guarded("The clock starts again from zero.", "Restart", act);
  };
  const put = (key: string, waves?: number) => {
    onSelect(key);
    send({ key, heat: 1, waves });
  };
  const load = (key: string) => {
    const next = pieces.find((piece) => piece.key === key)?.title ?? "another piece";
    guarded(`Its clock stops, and ${next} is put on.`, "Replace", () => put(key));
  };
  const undo = () => {
    const act = remote.undo;
    const stops = clock.data && STOPS.has(clock.data.press);
    if (!stops) return act();
    guarded("Undo stops its clock. Redo brings it back with the time it would show.", "Undo", act);
  };
  const redo = remote.redo;
  const opening = useWrite(
    (time: string) =>
      ask(api.PUT("/api/days/{date}/classes/{start}", { params: { path: { date, start: time } } })),
    {
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.floor(date)],
    },
  );
  const open = (time: string) => {
    setStart(time);
    if (onFloor) setOnFloor(time);
    if (!classes.find((one) => one.start === time)?.id) opening.mutate(time);
  };
  useWakeLock();

  if (floor.error) return <Failed error={floor.error} retry={() => floor.refetch()} />;
  if (!floor.data) return <Waiting />;
  const playable = pieces.filter((piece) => piece.clock.segments.length > 0);
  const key = clock.data?.key ?? null;
  if (onFloor) {
    return (
      <Suspense fallback={<Waiting />}>
        {question}
        <ClockOff />
        <Waits count={remote.waits} />
        {problem && (
          <p role="alert" className={wordStyles.cellWords} data-state="refused">
            {problem}
          </p>
        )}
        {held?.id != null && clock.data ? (
          <Floor
            date={date}
            clock={clock.data}
            moment={moment}
            press={press}
            undo={undo}
            redo={redo}
            people={floor.data.people}
            here={held.here}
            heatOf={heatOf}
            tiers={tiers}
            loadSteps={floor.data.load_steps}
            pieces={playable}
            onPiece={load}
            onClose={() => setOnFloor(null)}
          />
        ) : (
          <FloorStart
            classes={classes}
            held={held?.id != null ? held : null}
            people={floor.data.people}
            pieces={playable}
            onClass={open}
            onPiece={load}
            onClose={() => setOnFloor(null)}
          />
        )}
      </Suspense>
    );
  }
  const chosen = playable.findIndex((piece) => piece.key === key);
  return (
    <div className={styles.run} data-tab={tab}>
      {question}
      <ClockOff />
      <div className={fieldStyles.runHead}>
        <Select
          label="Class"
          placeholder="Choose a class"
          value={held?.start ?? null}
          onChange={(value) => value && open(value)}
          data={classes.map((one) => ({
            value: one.start,
            label: `${one.start.slice(0, 5)}${one.id ? ` · ${one.here.length} here` : " · open it"}`,
          }))}
        />
        {id !== null && (
          <Select
            label="Piece on the clock"
            placeholder="Choose a piece"
            value={key}
            onChange={(value) => value && load(value)}
            data={playable.map((piece) => ({ value: piece.key, label: piece.title }))}
          />
        )}
        <ScreenLinks />
        <Button variant="default" onClick={() => setOnFloor(held?.start ?? "")}>
          Floor mode
        </Button>
        {id !== null && <TellClass date={date} classId={id} />}
        {!connected && (
          <span className={fieldStyles.runOffline}>no connection: the clock goes on</span>
        )}
      </div>
      <Waits count={remote.waits} />
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      {id === null && (
        <>
          <Empty>
            <p>Choose a class. Its clock, who is here and its heats belong to it.</p>
          </Empty>
          <Bookings date={date} everybody={floor.data.people} />
        </>
      )}
      {id !== null && !clock.data && (
        <section aria-label="Pieces to run" className={styles.ahead}>
          <h2>Which piece?</h2>
          <PieceTiles pieces={playable} chosen={selected} onPiece={load} />
          {held && <Limits people={floor.data.people} here={held.here} />}
          {held && <Kit held={held} />}
        </section>
      )}
      {id !== null && clock.data && (
        <Cockpit
          clock={clock.data}
          piece={playable[chosen]}
          after={chosen < 0 ? undefined : playable[chosen + 1]}
          moment={moment}
          press={press}
          undo={undo}
          redo={redo}
        />
      )}
      {held?.id != null && (
        <>
          {clock.data && (
            <SegmentedControl
              className={styles.tabs}
              aria-label="Shown below the clock"
              value={tab}
              onChange={setTab}
              data={TABS}
            />
          )}
          <div className={styles.below} data-alone={!clock.data || undefined}>
            {clock.data && (
              <div className={styles.main}>
                <div data-panel="rounds">
                  <RoundTimes
                    date={date}
                    clock={clock.data}
                    moment={moment}
                    heatOf={heatOf}
                    people={floor.data.people}
                    here={held.here}
                  />
                </div>
                <div data-panel="movements">
                  <Cues clock={clock.data} moment={moment} />
                </div>
              </div>
            )}
            <aside className={styles.side}>
              <div data-panel="present">
                <Attendance floor={floor.data} held={held} date={date} />
              </div>
              {clock.data && key && (
                <div data-panel="heats">
                  <HeatsAndTeams
                    date={date}
                    classId={held.id}
                    pieceKey={key}
                    waves={clock.data.waves}
                    running={clock.data.began !== null && !clock.data.ended}
                    onWaves={(waves) => put(key, waves)}
                  />
                  {clock.data.script.one_by_one && (
                    <Finishes
                      date={date}
                      clock={clock.data}
                      people={floor.data.people}
                      here={held.here}
                      heatOf={heatOf}
                      moment={moment}
                    />
                  )}
                </div>
              )}
            </aside>
          </div>
        </>
      )}
    </div>
  );
}
