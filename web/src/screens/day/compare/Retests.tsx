// Earlier times the gym did this piece, and what changed since.
import { Select } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { retests as retestsQuery } from "../../../api/queries";
import { spoken } from "../../../ui/dates";
import wordStyles from "../../../ui/words.module.css";
import tableStyles from "./tables.module.css";

export function Retests({ date, pieceKey }: { date: string; pieceKey: string }) {
  const found = useQuery(retestsQuery(date, pieceKey));
  const [since, setSince] = useState<string | null>(null);
  const one = found.data?.find((held) => held.date === since) ?? found.data?.[0];
  if (!found.data || !one) return null;
  return (
    <details className={`${tableStyles.foretold} ${tableStyles.retest}`} open>
      <summary>
        Done before: {found.data.length} {found.data.length === 1 ? "time" : "times"}
      </summary>
      <Select
        label="Since"
        value={one.date}
        allowDeselect={false}
        onChange={setSince}
        data={found.data.map((held) => ({ value: held.date, label: spoken(held.date) }))}
      />
      <p>{one.gym?.words ?? "Nobody did both in the same tier and track."}</p>
      <table>
        <thead>
          <tr>
            <th>Athlete</th>
            <th>Then</th>
            <th>Now</th>
            <th>Change</th>
          </tr>
        </thead>
        <tbody>
          {one.changes.map((change) => (
            <tr key={change.person_id}>
              <th scope="row">{change.name}</th>
              <td className="num">{change.before}</td>
              <td className="num">{change.after}</td>
              <td className="num">
                {change.share >= 0 ? "+" : "−"}
                {Math.abs(change.share * 100).toFixed(1)} % <small>{change.sure}</small>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {one.gym && (
        <p className={wordStyles.why}>
          A usual day goes {Math.round(one.gym.wobble * 100)} % up or down; a change is clear when a
          usual day would rarely bring it.
        </p>
      )}
    </details>
  );
}
