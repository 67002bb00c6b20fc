// Earlier times the gym did this piece, and what changed since.
import { useQuery } from "@tanstack/react-query";
import { retests as retestsQuery } from "../../api/queries";
import { spoken } from "../../parts/dates";

export function Retests({ date, pieceKey }: { date: string; pieceKey: string }) {
  const found = useQuery(retestsQuery(date, pieceKey));
  if (!found.data || found.data.length === 0) return null;
  return (
    <details className="foretold retest">
      <summary>
        Done before: {found.data.length} {found.data.length === 1 ? "time" : "times"}
        {found.data[0]?.gym && ` · since then ${found.data[0].gym.words}`}
      </summary>
      {found.data.map((one) => (
        <section key={one.date}>
          <h3>Since {spoken(one.date)}</h3>
          <p>{one.gym?.words ?? "Nobody did both in the same tier and track."}</p>
          <ul>
            {one.changes.map((change) => (
              <li key={change.person_id} className="num">
                {change.name}: {change.before} → {change.after} ({change.share >= 0 ? "+" : "−"}
                {Math.abs(change.share * 100).toFixed(1)} %, {change.sure})
              </li>
            ))}
          </ul>
          {one.gym && (
            <p className="why">
              A usual day goes {Math.round(one.gym.wobble * 100)} % up or down; a change is clear
              when a usual day would rarely bring it.
            </p>
          )}
        </section>
      ))}
    </details>
  );
}
