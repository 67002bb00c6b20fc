// The class's clock, followed on the phone while a piece runs.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { keys } from "../../api/keys";
import { useLive } from "../../api/live";
import { myClock } from "../../api/queries";
import { usePosition } from "../../clock/frames";
import { useMoment } from "../../clock/moment";
import { type Beat, clockFace, faceAt } from "../../clock/play";
import styles from "./ClassClock.module.css";

const CAUTIONS = 3;

/** What to do now, without amounts: those are in my own version, below. */
function said(beat: Beat | null): string {
  if (!beat) return "";
  const what = beat.movements.length > 0 ? beat.movements : beat.lines;
  const round = beat.round ? [`round ${beat.round}`] : [];
  return [...(beat.kind === "rest" ? ["rest"] : what), ...round].join(" · ");
}

export function ClassClock() {
  const client = useQueryClient();
  const found = useQuery(myClock);
  const again = () => client.invalidateQueries({ queryKey: keys.myClock });
  useLive("/api/live", {
    clock: again,
    again,
    score: () => client.invalidateQueries({ queryKey: keys.days }),
  });
  const moment = useMoment();
  const position = usePosition(found.data, moment);
  const clock = found.data;
  if (!clock) return null;
  const waiting = clock.began === null && clock.held === null;
  if (position === null && !waiting) return null;
  const stand = faceAt(clock, position);
  if (stand.phase === "over") return null;
  return (
    <section className={styles.classClock} aria-label="The class's clock">
      <p>
        <b className="num">{waiting ? "–:––" : clockFace(stand.shown, stand.down)}</b>
        <span>
          {clock.script.title}:{" "}
          {waiting
            ? "on the clock, about to start"
            : clock.held !== null
              ? "paused"
              : stand.phase === "lead-in"
                ? "get ready"
                : said(stand.beat)}
        </span>
      </p>
      {stand.phase !== "playing" && (
        <ul aria-label="Safety">
          <li>{clock.pain}</li>
          {clock.cautions.slice(0, CAUTIONS).map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
