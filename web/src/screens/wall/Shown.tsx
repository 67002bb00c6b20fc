// Movements shown on a wall: the briefing a coach steps through, and what the work looks like.
import { useEffect, useMemo, useState } from "react";
import { api, type Schemas } from "../../api/client";
import type { Moment } from "../../clock/moment";
import { Figure } from "../../session/Figure";
import { MovementIcon } from "../../session/MovementIcon";
import styles from "./Shown.module.css";

type Cycle = Schemas["Cycle"];
type Clock = Schemas["ClockOut"];

const AGAIN_MS = 5000;

/** The figures of the piece on the clock, by movement; asked for again until they are there. */
export function useFigures(token: string, clock: Clock | null | undefined): Map<string, Cycle> {
  const [found, set] = useState<Cycle[]>([]);
  const piece = clock ? `${clock.class_id}/${clock.key}` : "";
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
