// Rounds side by side: who kept the pace, who fell off, who held back.
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import type { Schemas } from "../../../api/client";
import { rounds as roundsQuery } from "../../../api/queries";
import { clockFace } from "../../../clock/play";
import tableStyles from "./tables.module.css";

const RoundsChart = lazy(() =>
  import("../../../training/Charts").then((m) => ({ default: m.RoundsChart })),
);

const BAR_PX = 30;
const COLOURS = ["var(--pine)", "var(--resin)", "var(--bark)", "var(--pine-fresh)"];

function Bars({ numbers }: { numbers: readonly number[] }) {
  const top = Math.max(...numbers, 1);
  return (
    <span className={tableStyles.bars} aria-hidden>
      {numbers.map((number, at) => (
        // Rounds have no name but their place.
        <i
          key={at}
          className={tableStyles.bar}
          style={{ height: `${(number / top) * BAR_PX}px` }}
        />
      ))}
    </span>
  );
}

export function Rounds({ date, pieceKey }: { date: string; pieceKey: string }) {
  const found = useQuery(roundsQuery(date, pieceKey));
  const [chosen, setChosen] = useState<number[]>([]);
  if (!found.data || found.data.athletes.length === 0) return null;
  const { athletes, unit } = found.data;
  const flip = (id: number) =>
    setChosen((all) => (all.includes(id) ? all.filter((one) => one !== id) : [...all, id]));
  const side = athletes.filter((one) => chosen.includes(one.person_id));
  const shown = (number?: number) =>
    number === undefined ? "" : unit === "s" ? clockFace(number, false) : String(number);
  const most = Math.max(0, ...side.map((one) => one.rounds.numbers.length));
  const row = (one: Schemas["RoundsOut"]) => (
    <tr key={one.person_id}>
      <th scope="row">
        <label>
          <input
            type="checkbox"
            checked={chosen.includes(one.person_id)}
            onChange={() => flip(one.person_id)}
          />{" "}
          {one.name}
        </label>
      </th>
      <td className="num">{one.display}</td>
      <td>
        <Bars numbers={one.rounds.numbers} />
      </td>
      <td>{one.pacing?.words}</td>
    </tr>
  );
  return (
    <details className={tableStyles.foretold} open>
      <summary>Round times: {athletes.length} entered</summary>
      {side.length < 2 && <p>Tick two or more to lay their rounds side by side.</p>}
      {side.length > 1 && (
        <div aria-hidden>
          <Suspense>
            <RoundsChart
              labels={Array.from({ length: most }, (_, at) => String(at + 1))}
              unit={unit}
              athletes={side.map((one, at) => ({
                name: one.name,
                values: one.rounds.numbers,
                color: COLOURS[at % COLOURS.length] as string,
                dashed: at % 2 === 1,
              }))}
            />
          </Suspense>
        </div>
      )}
      {side.length > 1 && (
        <table className={`${tableStyles.roundsTable} num`} aria-label="Side by side">
          <thead>
            <tr>
              <th>Round</th>
              {side.map((one) => (
                <th key={one.person_id}>{one.name}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: most }, (_, at) => (
              <tr key={at}>
                <th scope="row">
                  {at + 1}{" "}
                  <small>
                    {/^round/.test(found.data.labels[at] ?? "") ? "" : found.data.labels[at]}
                  </small>
                </th>
                {side.map((one) => (
                  <td key={one.person_id}>{shown(one.rounds.numbers[at])}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <table className={tableStyles.roundsTable}>
        <tbody>{athletes.map(row)}</tbody>
      </table>
    </details>
  );
}
