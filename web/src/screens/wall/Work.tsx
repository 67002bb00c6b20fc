// What is done now, in every tier's version: one table, a line a row, read from ten metres.
import type { Beat } from "../../clock/play";
import { Fit } from "../../ui/Fit";
import styles from "./Wall.module.css";

type Version = Beat["versions"][number][number];

const told = (version: Version) => [version.work, version.load].filter(Boolean).join(" @ ");

/** A tier's cell beside the work as written: its load where the work is the same. */
function Cell({ first, own }: { first: Version; own: Version }) {
  if (own.work === first.work) return <b className={styles.load}>{own.load || "the same"}</b>;
  return (
    <>
      <span className={styles.other}>{own.work}</span> <b className={styles.load}>{own.load}</b>
    </>
  );
}

export function Work({ beat, tiers }: { beat: Beat; tiers: readonly string[] }) {
  const rows = beat.versions;
  const count = Math.max(1, ...rows.map((versions) => versions.length));
  const apart =
    count > 1 &&
    rows.some(([first, ...rest]) => first && rest.some((own) => told(own) !== told(first)));
  if (!apart) {
    return (
      <Fit of={beat.lines.join("\n")} className={styles.work} most={1.6}>
        <ul className={styles.lines} data-many={beat.lines.length > 5}>
          {beat.lines.map((line, at) => (
            <li key={`${at}/${line}`}>{line}</li>
          ))}
        </ul>
      </Fit>
    );
  }
  const columns = Array.from({ length: count }, (_, tier) => tier);
  return (
    <Fit of={`${beat.id}/${beat.lines.join("\n")}/${tiers}`} className={styles.work} most={1.5}>
      <table style={{ "--tiers": count } as React.CSSProperties}>
        <thead>
          <tr>
            <td />
            {columns.map((tier) => (
              <th key={tier} scope="col">
                {tier === count - 1 && tiers.length > count
                  ? tiers.slice(tier).join(", ")
                  : tiers[tier]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((versions, at) => {
            const first = versions[0];
            if (!first) return null;
            const same = versions.every((own) => told(own) === told(first));
            return (
              <tr key={`${at}/${first.work}`}>
                <th scope="row">{first.work}</th>
                {same ? (
                  <td colSpan={count} className="num">
                    <b className={styles.load}>{first.load}</b>
                  </td>
                ) : (
                  versions.map((own, tier) => (
                    <td key={tiers[tier] ?? tier} className="num">
                      <Cell first={first} own={own} />
                    </td>
                  ))
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </Fit>
  );
}
