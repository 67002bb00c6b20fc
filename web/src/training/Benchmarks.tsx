// An athlete's bests on the boards the gym keeps to repeat.
import type { Schemas } from "../api/client";
import { spoken } from "../ui/dates";
import beliefsStyles from "./PaceEstimates.module.css";

export function Benchmarks({ bests }: { bests: readonly Schemas["BenchmarkOut"][] }) {
  if (bests.length === 0) return null;
  return (
    <section className={beliefsStyles.beliefs} aria-label="Bests on saved days">
      <h2>Results on saved workouts</h2>
      <ul>
        {bests.map((best) => (
          <li key={`${best.board}${best.piece}`}>
            {best.board === best.piece ? best.board : `${best.board}, ${best.piece}`}:{" "}
            <b className="num">{best.display}</b> {best.tier}, {spoken(best.date)}
            {best.times > 1 && <>, best of {best.times}</>}
          </li>
        ))}
      </ul>
    </section>
  );
}
