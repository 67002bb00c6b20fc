// Movements shown on a wall: the briefing a coach steps through, and what the work looks like.
import { useEffect, useMemo, useState } from "react";
import { api, type Schemas } from "../../api/client";
import type { Moment } from "../../clock/moment";
import { Figure } from "../../training/Figure";
import { MovementIcon } from "../../training/MovementIcon";
import styles from "./MovementSlides.module.css";

type Cycle = Schemas["Cycle"];
type Clock = Schemas["ClockOut"];
type Brief = Schemas["Brief"];

const AGAIN_MS = 5000;

/** The figures of what the wall shows, by movement; asked for again until they are there. */
export function useFigures(
  token: string,
  clock: Clock | null | undefined,
  briefs: readonly Brief[],
): Map<string, Cycle> {
  const [found, set] = useState<Cycle[]>([]);
  const shown = briefs.map((brief) => brief.movement).join();
  const piece = clock ? `${clock.class_id}/${clock.key}` : shown;
  useEffect(() => {
    if (!piece) return;
    let timer: number | undefined;
    let gone = false;
    const get = async () => {
      try {
        const { data } = await api.GET("/api/wall/{token}/figures", {
          params: { path: { token } },
        });
        if (data && !gone) set(data as Cycle[]);
        else if (!gone) timer = window.setTimeout(get, AGAIN_MS);
      } catch {
        // Without the network the wall shows what it has, and tries again.
        if (!gone) timer = window.setTimeout(get, AGAIN_MS);
      }
    };
    get();
    return () => {
      gone = true;
      window.clearTimeout(timer);
    };
  }, [token, piece]);
  return useMemo(() => new Map(found.map((each) => [each.movement, each])), [found]);
}

/** One movement large, with what counts and what to mind. */
export function Briefing({
  clock,
  figures,
  moment,
}: {
  clock: Clock;
  figures: Map<string, Cycle>;
  moment: Moment;
}) {
  const place = clock.shown ?? 0;
  const brief = clock.briefing[place];
  if (!brief) return null;
  const cycle = figures.get(brief.movement);
  return (
    <section className={styles.briefing} data-shown={place} aria-label={brief.movement}>
      <div className={styles.large}>{cycle && <Figure cycle={cycle} now={moment} />}</div>
      <div className={styles.words}>
        <p className={`${styles.place} num`}>
          {place + 1} of {clock.briefing.length}
        </p>
        <h1>{brief.movement}</h1>
        <p>{brief.standard}</p>
        {brief.caution && (
          <p className={styles.caution}>
            <span aria-hidden>▲ </span>
            {brief.caution}
          </p>
        )}
      </div>
    </section>
  );
}

const TURN_S = 5;

/** What is done now, moving; of several movements one after the other. */
export function Doing({
  icon,
  movements,
  figures,
  moment,
}: {
  icon: string;
  movements: readonly string[];
  figures: Map<string, Cycle>;
  moment: Moment;
}) {
  const known = movements.flatMap((name) => figures.get(name) ?? []);
  const turn = moment ? Math.floor(moment() / TURN_S) : 0;
  const cycle = known[turn % Math.max(1, known.length)];
  // The same room either way: what stands beside it is fitted once.
  return (
    <div className={styles.doing}>
      {cycle ? (
        <Figure key={cycle.movement} cycle={cycle} now={moment} />
      ) : (
        <MovementIcon pattern={icon} size={72} />
      )}
    </div>
  );
}

/** Figures side by side before the start; more of them come a screen at a time. */
const ABREAST = 6;

/** The movements of a board before it starts: all stand, one after the other moves and is told. */
export function InTurn({
  briefs,
  figures,
  moment,
}: {
  briefs: readonly Brief[];
  figures: Map<string, Cycle>;
  moment: Moment;
}) {
  const turn = useTurn(moment);
  const known = briefs.filter((brief) => figures.has(brief.movement));
  if (known.length === 0) return null;
  const on = turn % known.length;
  // Screens of one length, so that nothing stands alone on the last.
  const abreast = Math.ceil(known.length / Math.ceil(known.length / ABREAST));
  const first = Math.floor(on / abreast) * abreast;
  const told = known[on];
  return (
    <section className={styles.turns} aria-label="How it goes">
      <ol>
        {known.slice(first, first + abreast).map((brief, place) => {
          const cycle = figures.get(brief.movement);
          const moves = first + place === on;
          return (
            <li key={brief.movement} data-on={moves || undefined}>
              {cycle && <Figure cycle={cycle} now={moment} rests={!moves} />}
              <b>{brief.movement}</b>
            </li>
          );
        })}
      </ol>
      <p>{told?.standard}</p>
    </section>
  );
}

/** Which turn it is by the clock all displays share. */
export function useTurn(moment: Moment, lasts_s = TURN_S): number {
  const [turn, set] = useState(0);
  useEffect(() => {
    if (!moment) return;
    const look = () => set(Math.floor(moment() / lasts_s));
    look();
    const timer = window.setInterval(look, 250);
    return () => window.clearInterval(timer);
  }, [moment, lasts_s]);
  return turn;
}
