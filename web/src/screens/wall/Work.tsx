// What is done now, in every tier's version: one table, a line a row, read from ten metres. Where
// that would be too small to read, the tiers take turns.
import { useState } from "react";
import type { Moment } from "../../clock/moment";
import type { Beat } from "../../clock/play";
import { Fit } from "../../ui/Fit";
import { useTurn } from "./MovementSlides";
import styles from "./Wall.module.css";

type Version = Beat["versions"][number][number];

/** Share of the table's letters below which the back row cannot read it. */
const READABLE = 0.72;
const TURN_S = 8;

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

/** The names of a column: the last one stands for all tiers that do the same. */
function named(tier: number, count: number, tiers: readonly string[]): string {
  const last = tier === count - 1 && tiers.length > count;
  return last ? tiers.slice(tier).join(", ") : (tiers[tier] ?? "");
}

/** One tier after the other, by the clock all displays share. */
function InTurn({
  beat,
  count,
  tiers,
  moment,
}: {
  beat: Beat;
  count: number;
  tiers: readonly string[];
  moment: Moment;
}) {
  const tier = useTurn(moment, TURN_S) % count;
  const own = beat.versions.flatMap((versions) => versions[tier] ?? versions.at(-1) ?? []);
  return (
    <Fit of={`${tier}/${own.map(told)}`} className={styles.work} most={1.5}>
      <p className={styles.turn} data-field="tier">
        <b>{named(tier, count, tiers)}</b>{" "}
        <span className="num">
          {tier + 1} of {count}
        </span>
      </p>
      <ul className={styles.lines} data-many={own.length > 5}>
        {own.map((version, at) => (
          <li key={`${at}/${version.work}`}>
            {version.work} <b className={`${styles.load} num`}>{version.load}</b>
          </li>
        ))}
      </ul>
    </Fit>
  );
}

export function Work({
  beat,
  tiers,
  moment,
}: {
  beat: Beat;
  tiers: readonly string[];
  moment: Moment;
}) {
  const [small, setSmall] = useState("");
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
  const of = `${beat.id}/${beat.lines.join("\n")}/${tiers}`;
  if (small === of) return <InTurn beat={beat} count={count} tiers={tiers} moment={moment} />;
  const columns = Array.from({ length: count }, (_, tier) => tier);
  return (
    <Fit
      of={of}
      className={styles.work}
      most={1.5}
      onFit={(size) => size < READABLE && setSmall(of)}
    >
      <table style={{ "--tiers": count } as React.CSSProperties}>
        <thead>
          <tr>
            <td />
            {columns.map((tier) => (
              <th key={tier} scope="col">
                {named(tier, count, tiers)}
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
