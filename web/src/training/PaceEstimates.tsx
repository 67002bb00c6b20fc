// What the scores say of an athlete's pace, and how far such beliefs can be trusted.
import type { Schemas } from "../api/client";
import styles from "./PaceEstimates.module.css";

export function PaceEstimates({ pace }: { pace: Schemas["PaceOut"] }) {
  const percent = (value: number) => `${Math.round(value * 100)} %`;
  return (
    <section className={styles.beliefs} aria-label="Pace">
      <h2>Pace</h2>
      <ul>
        {pace.paces.map((one) => (
          <li key={one.capacity}>{one.words}</li>
        ))}
      </ul>
      {Object.keys(pace.bests).length > 0 && (
        <p>
          Their sets speak for{" "}
          {Object.entries(pace.bests)
            .sort()
            .map(([lift, kg]) => `${lift} ${kg} kg`)
            .join(", ")}{" "}
          for one rep; what is noted as a best comes first.
        </p>
      )}
      <p>
        {pace.scores === 0
          ? "No scores to learn from yet: the tier’s usual pace is taken."
          : `From ${pace.scores} scores.`}{" "}
        {pace.report?.error && pace.report.baseline && (
          <>
            Scores the fit has not seen are predicted within about {percent(pace.report.error)}; the
            tier’s mean misses by {percent(pace.report.baseline)}.
            {pace.report.coverage != null &&
              ` ${percent(pace.report.coverage)} of them lay in the range that was told.`}
          </>
        )}
      </p>
    </section>
  );
}
