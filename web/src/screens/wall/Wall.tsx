// The wall: board before, clock during, and nothing else. It keeps time without the network.
import { useCallback, useEffect, useMemo, useState } from "react";
import { api, type Schemas } from "../../api/client";
import { useLive } from "../../api/live";
import { useDone, useMs, usePosition } from "../../clock/frames";
import { type Moment, useMoment } from "../../clock/moment";
import { clockFace, faceAt, nextWords, type Stand, standAt, tempoAt } from "../../clock/play";
import { useCalls, useSilent, wakeSound } from "../../clock/sounds";
import { useWakeLock } from "../../clock/wakeLock";
import { Piece } from "../../training/Board";
import { MovementIcon } from "../../training/MovementIcon";
import { Fit } from "../../ui/Fit";
import { Hearts, type Tile, useHearts } from "./Hearts";
import { Briefing, Doing, InTurn, useFigures } from "./MovementSlides";
import { partAt, partsOf } from "./pieceParts";
import { useFit } from "./useFit";
import styles from "./Wall.module.css";
import { Work } from "./Work";

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

const BESTS_MS = 600_000;

/** Own bests of the week, looked at now and then while nothing runs. */
function useBests(token: string, idle: boolean) {
  const [found, set] = useState<Schemas["WallBest"][]>([]);
  useEffect(() => {
    if (!idle) return;
    let gone = false;
    const get = () =>
      api
        .GET("/api/wall/{token}/bests", { params: { path: { token } } })
        .then(({ data }) => data && !gone && set(data))
        // Without the network the wall shows what it has.
        .catch(() => undefined);
    get();
    const timer = window.setInterval(get, BESTS_MS);
    return () => {
      gone = true;
      window.clearInterval(timer);
    };
  }, [token, idle]);
  return found;
}

function BoardLayout({
  wall,
  token,
  figures,
  moment,
}: {
  wall: WallOut;
  token: string;
  figures: ReturnType<typeof useFigures>;
  moment: Moment;
}) {
  const bests = useBests(token, wall.clock === null);
  const box = useFit(wall, figures.size + bests.length);
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
        <InTurn briefs={clock.briefing} figures={figures} moment={moment} />
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
      <InTurn briefs={wall.movements} figures={figures} moment={moment} />
      {wall.kit.length > 0 && (
        <p className={styles.ready}>
          <b>Kit</b> {wall.kit.join(" · ")}
        </p>
      )}
      {bests.length > 0 && (
        <p className={`${styles.ahead} num`}>
          <b>Own bests this week</b>
          {bests.map((best) => (
            <span key={`${best.name}/${best.piece}`}>
              {best.name} {best.piece} {best.shown} <small>{best.change}</small>
            </span>
          ))}
        </p>
      )}
      <p className={`${styles.ahead} num`}>
        {wall.next && (
          <span>
            <b>Next class</b> {wall.next.start.slice(0, 5)}, {wall.next.coming} of {wall.next.size}{" "}
            come
          </span>
        )}
        {wall.tomorrow && (
          <span>
            <b>Tomorrow</b> {wall.tomorrow}
          </span>
        )}
      </p>
      {wall.board && <p className={styles.ready}>{wall.board.readiness}</p>}
    </div>
  );
}

const WORDS = { waiting: "ready", "lead-in": "get ready", playing: "", over: "time" };
/** More parts than these are told by a bar alone; fewer than these have room for what they ask. */
const MOST_PARTS = 30;
const ROOMY_PARTS = 12;

/** The whole piece as one bar. */
function Progress({ clock, moment }: { clock: Clock; moment: Moment }) {
  const ref = useDone<HTMLProgressElement>(clock, moment, (bar, share) => {
    bar.value = share;
  });
  return <progress max={1} ref={ref} aria-label="Done of this part" />;
}

/** The share of a part that is done, as a fill. */
function Filling({ clock, moment }: { clock: Clock; moment: Moment }) {
  const ref = useDone<HTMLElement>(clock, moment, (fill, share) => {
    fill.style.width = `${share * 100}%`;
  });
  return <i ref={ref} />;
}

/** The parts of the piece as blocks: done, the one that is on, to come. */
function Parts({ clock, stand, moment }: { clock: Clock; stand: Stand; moment: Moment }) {
  const { beats, format } = clock.script;
  const { name, parts } = useMemo(() => partsOf(beats, format), [beats, format]);
  if (parts.length === 0 || parts.length > MOST_PARTS) {
    return <Progress clock={clock} moment={moment} />;
  }
  const at = stand.phase === "over" ? parts.length : partAt(parts, beats, stand.beat);
  const between = at >= 0 && stand.beat && !parts[at]?.beats.has(stand.beat.id);
  const words = parts[at]
    ? `${name} ${parts[at].number} of ${parts.length}`
    : `${parts.length} ${name}s`;
  return (
    <div className={styles.parts} data-field="parts">
      <p className="num">{words}</p>
      <ol aria-hidden>
        {parts.map((part, place) => (
          <li
            key={part.number}
            data-is={
              place < at || (place === at && between) ? "done" : place === at ? "on" : "ahead"
            }
            style={{ flexGrow: part.share }}
          >
            {place === at && !between && <Filling clock={clock} moment={moment} />}
            {parts.length <= ROOMY_PARTS && <span className="num">{part.amounts}</span>}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** Results as they come, by tier; everybody's once the piece is over. */
function Results({ wall }: { wall: WallOut }) {
  if (wall.results.length === 0) return null;
  return (
    <Fit
      of={wall.results.map((one) => `${one.tier}${one.name}${one.shown}${one.change}`).join()}
      className={styles.results}
      most={1.6}
    >
      {wall.tiers.map((name, tier) => {
        const own = wall.results.filter((one) => one.tier === tier);
        if (own.length === 0) return null;
        return (
          <section key={name} aria-label={name}>
            <h2>{name}</h2>
            <ol>
              {own.map((one) => (
                <li key={one.name}>
                  {one.name}{" "}
                  <span>
                    {one.change && <small>{one.change} </small>}
                    <b className="num">{one.shown}</b>
                  </span>
                </li>
              ))}
            </ol>
          </section>
        );
      })}
    </Fit>
  );
}

function ClockLayout({
  wall,
  clock,
  position,
  hearts,
  figures,
  moment,
}: {
  wall: WallOut;
  clock: Clock;
  position: number | null;
  hearts: readonly Tile[];
  figures: ReturnType<typeof useFigures>;
  moment: Moment;
}) {
  const [silent] = useSilent();
  const call = useCalls(clock, moment, silent);
  const stand = faceAt(clock, position);
  const { beat, next } = stand;
  const tempo = beat ? tempoAt(beat, stand.gone) : null;
  const before = stand.phase === "waiting" || stand.phase === "lead-in";
  // A rest shows what comes after it, as large as the work.
  const shown = beat && beat.kind !== "rest" ? beat : stand.phase === "over" ? null : next;
  const state = stand.phase === "playing" ? (beat?.kind ?? "work") : stand.phase;
  const { total_s, cap_s, beats, endless } = clock.script;
  const whole = clock.waves === 1 && position !== null && position >= 0 && beats.length > 1;
  const end = total_s ?? cap_s;
  return (
    <div
      className={styles.clock}
      data-state={clock.held !== null && !clock.ended ? "held" : state}
      data-over={stand.phase === "over"}
    >
      <header>
        <h1 className={styles.playing}>{clock.script.title}</h1>
        <span className="num">{clock.script.format}</span>
        {clock.waves > 1 && stand.phase === "playing" && (
          <span className="num">heat {stand.heat + 1}</span>
        )}
        {beat?.round && (
          <span className="num">
            round <b data-field="round">{beat.round}</b>
            {beat.rounds && !endless && ` of ${beat.rounds}`}
          </span>
        )}
      </header>
      <div className={styles.stage}>
        <p className={`${styles.time} num`} data-field="time" role="timer">
          {stand.phase === "waiting" ? "–:––" : clockFace(stand.shown, stand.down)}
        </p>
        <div className={styles.beside}>
          <p className={styles.word} data-field="state">
            {clock.held !== null && !clock.ended
              ? "paused"
              : stand.phase === "playing"
                ? beat?.kind === "rest"
                  ? "rest"
                  : (tempo && `${tempo.phase} ${tempo.count}`) || call || "work"
                : WORDS[stand.phase]}
            {beat?.member && <span className={styles.partner}>partner {beat.member}</span>}
          </p>
          {whole && end && stand.phase === "playing" && position < end && (
            <p className={styles.left} data-field="left">
              <b className="num">{clockFace(end - position, true)}</b> left
            </p>
          )}
          {before ? (
            <Fit of={clock.cautions} className={styles.safety} most={1.15}>
              <Cautions clock={clock} />
            </Fit>
          ) : (
            stand.phase !== "over" && <Results wall={wall} />
          )}
        </div>
      </div>
      <Parts clock={clock} stand={stand} moment={moment} />
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
      {shown ? (
        <div className={styles.now} data-field="now" data-beat={beat?.id}>
          <div>
            {beat && shown !== beat && <p className={styles.then}>next</p>}
            <Doing
              icon={shown.icon}
              movements={shown.movements}
              figures={figures}
              moment={moment}
            />
          </div>
          <Work beat={shown} tiers={wall.tiers} moment={moment} />
        </div>
      ) : (
        <Results wall={wall} />
      )}
      {next && beat && shown === beat && (
        <p className={styles.next}>
          <MovementIcon pattern={next.icon} size={44} /> {nextWords(beat, next)}
        </p>
      )}
      <Hearts tiles={hearts} />
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
  const [hearts, hear] = useHearts();
  const connected = useLive(`/api/wall/${encodeURIComponent(token)}/live`, {
    wall: show,
    hearts: hear,
    withdrawn: () => setGone(true),
  });
  const moment = useMoment();
  const position = usePosition(wall?.clock, moment);
  const ms = useMs<HTMLElement>(wall?.clock, moment);
  const figures = useFigures(token, wall?.clock, wall?.movements ?? []);
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
      ref={ms}
      data-step={clock?.step ?? 0}
      data-connected={connected}
      onPointerDown={wakeSound}
    >
      {clock && clock.shown !== null ? (
        <Briefing clock={clock} figures={figures} moment={moment} />
      ) : running && clock ? (
        <ClockLayout
          wall={wall}
          clock={clock}
          position={position}
          hearts={hearts.filter((one) => one.class_id === clock.class_id)}
          figures={figures}
          moment={moment}
        />
      ) : (
        <BoardLayout wall={wall} token={token} figures={figures} moment={moment} />
      )}
      {!connected && <span className={styles.offline}>keeping time without the network</span>}
    </main>
  );
}
