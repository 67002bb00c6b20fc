// What was predicted for each athlete beside what they did.
import { useQuery } from "@tanstack/react-query";
import { foretold } from "../../../api/queries";
import { Failed, Waiting } from "../../../ui/states";
import tableStyles from "./tables.module.css";

export function PredictedVsActual({ date, pieceKey }: { date: string; pieceKey: string }) {
  const found = useQuery(foretold(date, pieceKey));
  if (found.error) return <Failed error={found.error} />;
  if (!found.data) return <Waiting />;
  const { rows, middle_off } = found.data;
  const told = rows.filter((row) => row.predicted);
  if (told.length === 0) return null;
  return (
    <details className={tableStyles.foretold}>
      <summary>
        Predicted and done
        {middle_off !== null && `: half are within ${Math.round(middle_off * 100)} %`}
      </summary>
      <table>
        <thead>
          <tr>
            <th>Athlete</th>
            <th>Predicted</th>
            <th>Done</th>
          </tr>
        </thead>
        <tbody>
          {told.map((row) => (
            <tr key={row.person_id}>
              <th scope="row">{row.name}</th>
              <td className="num">{row.predicted}</td>
              <td className="num">{row.actual}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p>
        Predicted from what all scores say of the athlete, this one among them: how well it does on
        unseen scores stands on each athlete’s page.
      </p>
    </details>
  );
}
