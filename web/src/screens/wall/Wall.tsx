// The wall: board before, clock during, and nothing else. It keeps time without the network.
import { useCallback, useLayoutEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useLive } from "../../api/live";
import { useMoment, usePosition } from "../../clock/moment";
import { clockFace, faceAt, nextWords, standAt, tempoAt } from "../../clock/play";
import { useCalls, useSilent, wakeSound } from "../../clock/sounds";
import { useWakeLock } from "../../clock/wakeLock";
import { Piece } from "../../session/Board";
import { MovementIcon } from "../../session/MovementIcon";
import styles from "./Wall.module.css";

type WallOut = Schemas["WallOut"];
type Clock = Schemas["ClockOut"];

function Cautions({ clock }: { clock: Clock }) {
  return (
    <aside className={styles.cautions} aria-label="Safety">
      <b>{clock.pain}</b>
      {clock.cautions.slice(0, 4).map((caution) => (
        <span key={caution}>{caution}</span>
      ))}
    </aside>
  );
}

/** Padding of a wall above and below, in widths of the screen. */
const MARGIN = 0.022;

/** Nobody scrolls a wall: a board that would leave the screen is made smaller. */
function useFit(wall: WallOut) {
  const box = useRef<HTMLDivElement>(null);
  // Another board has another height.
  useLayoutEffect(() => {
    const fit = () => {
      const [held, room] = [box.current, window.innerHeight - 2 * MARGIN * window.innerWidth];
      if (!held) return;
      held.style.zoom = "1";
      if (held.scrollHeight > room) held.style.zoom = String(room / held.scrollHeight);
    };
    fit();
    document.fonts.ready.then(fit);
    window.addEventListener("resize", fit);
    return () => window.removeEventListener("resize", fit);
  }, [wall]);
  return box;
}

function BoardLayout({ wall }: { wall: WallOut }) {
  const box = useFit(wall);
  const clock = wall.clock;
  if (clock) {
    const notes = new Set(clock.tiers.flatMap((one) => one.piece.notes));
    return (
      <div className={styles.board} ref={box}>
        <h1>
          {clock.script.title}
          <small className="num">
            {[clock.script.format, ...clock.script.modifiers].join(" · ")}
          </small>
        </h1>
        <div className={styles.tiers} data-count={clock.tiers.length}>
          {clock.tiers.map((one) => (
            <section key={one.tier}>
              <h2>{clock.tiers.length > 1 ? one.tier : "Everybody"}</h2>
              <Piece piece={{ ...one.piece, cautions: [], notes: [] }} />
            </section>
          ))}
        </div>
        {[...notes].map((note) => (
          <p key={note} className={styles.note}>
            {note}
          </p>
        ))}
        <Cautions clock={clock} />
        <p className={styles.ready}>{clock.readiness}</p>
      </div>
    );
  }
  return (
    <div className={styles.board} ref={box}>
      <h1>{wall.board?.title || wall.gym}</h1>
      {wall.board ? (
        <div className={styles.session}>
          {wall.board.pieces.map((piece) => (
            <Piece key={piece.key} level={2} piece={{ ...piece, cautions: [] }} />
          ))}
        </div>
      ) : (
        <p>No session is shown for today.</p>
      )}
      {wall.kit.length > 0 && (
        <p className={styles.ready}>
          <b>Kit</b> {wall.kit.join(" · ")}
        </p>
      )}
      {wall.board && <p className={styles.ready}>{wall.board.readiness}</p>}
    </div>
  );
}

/** So many lines leave room for larger letters. */
const ROOMY = 3;
/** More than so many stand in two columns. */
const MANY = 5;
const WORDS = { waiting: "ready", "lead-in": "get ready", playing: "", over: "time" };

function ClockLayout({ clock, position }: { clock: Clock; position: number | null }) {
  const [silent] = useSilent();
  const call = useCalls(clock, position, silent);
  const stand = faceAt(clock, position);
  const { beat, next } = stand;
  const tempo = beat ? tempoAt(beat, stand.gone) : null;
  const lines = beat?.lines ?? (stand.phase === "over" ? [] : (next?.lines ?? []));
  const roomy = lines.length <= ROOMY && clock.waves === 1 && clock.finishes.length === 0;
  const state = stand.phase === "playing" ? (beat?.kind ?? "work") : stand.phase;
  return (
    <div className={styles.clock} data-state={clock.held !== null && !clock.ended ? "held" : state}>
      <header>
        <h1 className={styles.playing}>{clock.script.title}</h1>
        <span className="num">{clock.script.format}</span>
        {clock.waves > 1 && stand.phase === "playing" && (
          <span className="num">heat {stand.heat + 1}</span>
        )}
        {beat?.round && (
          <span className="num">
            round <b data-field="round">{beat.round}</b>
            {beat.rounds && !clock.script.endless && ` of ${beat.rounds}`}
          </span>
        )}
        {beat?.member && <span className="num">partner {beat.member}</span>}
      </header>
      <p className={`${styles.time} num`} data-field="time" role="timer">
        {stand.phase === "waiting" ? "–:––" : clockFace(stand.shown, stand.down)}
      </p>
      <p className={styles.word} data-field="state">
        {clock.held !== null && !clock.ended
          ? "held"
          : stand.phase === "playing"
            ? beat?.kind === "rest"
              ? "rest"
              : (tempo && `${tempo.phase} ${tempo.count}`) || call || "work"
            : WORDS[stand.phase]}
      </p>
      <progress max={1} value={stand.done} aria-label="Done of this part" />
      {clock.waves > 1 && (
        <p className={`${styles.heats} num`}>
          {clock.heats.map((begun, at) => {
            const own = position === null ? null : position - begun;
            const there = standAt(clock, own);
            return (
              <span key={`${at}/${begun}`}>
                heat {at + 1}{" "}
                <b>{own === null || own < 0 ? "ready" : clockFace(there.shown, there.down)}</b>
              </span>
            );
          })}
        </p>
      )}
      <div
        className={styles.now}
        data-roomy={roomy}
        data-many={lines.length > MANY}
        data-field="now"
        data-beat={beat?.id}
      >
        {beat && beat.kind !== "rest" && <MovementIcon pattern={beat.icon} size={72} />}
        <ul>
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      {next && beat && (
        <p className={styles.next}>
          <MovementIcon pattern={next.icon} size={44} /> {nextWords(beat, next)}
        </p>
      )}
      {(stand.phase === "waiting" || stand.phase === "lead-in") && <Cautions clock={clock} />}
      {clock.finishes.length > 0 && (
        <ol className={styles.finishes}>
          {clock.finishes.slice(-8).map((one) => (
            <li key={one.person_id}>
              {one.name || "an athlete"} <b className="num">{one.shown}</b>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

export function Wall({ token }: { token: string }) {
  useWakeLock();
  const [wall, setWall] = useState<WallOut | null>(null);
  const [gone, setGone] = useState(false);
  const show = useCallback((data: Record<string, unknown>) => {
    setGone(false);
    setWall(data as unknown as WallOut);
  }, []);
  const connected = useLive(`/api/wall/${encodeURIComponent(token)}/live`, {
    wall: show,
    withdrawn: () => setGone(true),
  });
  const moment = useMoment();
  const position = usePosition(wall?.clock, moment);
  if (gone)
    return <p className={`${styles.wall} ${styles.dark}`}>This display link was withdrawn.</p>;
  if (!wall) {
    return (
      <p className={`${styles.wall} ${styles.dark}`}>
        {connected ? "Waiting for the board…" : "No board at this link yet. Trying again…"}
      </p>
    );
  }
  const clock = wall.clock;
  const running = clock?.layout === "clock";
  return (
    // A press anywhere lets the browser sound.
    <main
      className={styles.wall}
      data-layout={running ? "clock" : "board"}
      data-ms={position === null ? "" : Math.round(position * 1000)}
      data-step={clock?.step ?? 0}
      data-connected={connected}
      onPointerDown={wakeSound}
    >
      {running && clock ? (
        <ClockLayout clock={clock} position={position} />
      ) : (
        <BoardLayout wall={wall} />
      )}
      {!connected && <span className={styles.offline}>keeping time without the network</span>}
    </main>
  );
}
