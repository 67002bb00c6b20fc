// What a coach says of movements: what counts, cues, cautions.
import { lazy, Suspense } from "react";
import type { Schemas } from "../../../api/client";
import styles from "./Run.module.css";

const AnimatedFigure = lazy(() =>
  import("../../../training/AnimatedFigure").then((m) => ({ default: m.AnimatedFigure })),
);

export function MovementCues({
  clock,
  names,
}: {
  clock: Schemas["ClockOut"];
  names: readonly string[];
}) {
  const found = clock.script.say.filter((one) => names.includes(one.movement));
  if (found.length === 0) return null;
  const drawn = new Set(clock.briefing.map((brief) => brief.movement));
  return (
    <section className={styles.say} aria-label="What to say">
      {found.map((one) => (
        <div key={one.movement}>
          {drawn.has(one.movement) && (
            <div className={styles.moves}>
              <Suspense>
                <AnimatedFigure name={one.movement} />
              </Suspense>
            </div>
          )}
          <h2>{one.movement}</h2>
          {one.standard && <p>{one.standard}</p>}
          {one.cues.length > 0 && <p>{one.cues.join(" · ")}</p>}
          {one.cautions.map((caution) => (
            <p key={caution} className={styles.caution}>
              {caution}
            </p>
          ))}
        </div>
      ))}
    </section>
  );
}
