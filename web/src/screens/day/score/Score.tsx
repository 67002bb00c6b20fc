// The score sheet: a quiet grid filled by keyboard alone.
import { SegmentedControl } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useLive } from "../../../api/live";
import { sheet as sheetQuery } from "../../../api/queries";
import { useMyId } from "../../../api/useMyId";
import { keep as enqueue } from "../../../offline/outbox";
import { newKey } from "../../../offline/queue";
import fieldStyles from "../../../ui/fields.module.css";
import { Empty, Failed, Waiting } from "../../../ui/states";
import { Aside } from "./Aside";
import { Cell } from "./Cell";
import styles from "./Score.module.css";

type Row = Schemas["SheetRow"];
type ScoreOut = Schemas["ScoreOut"];
type Version = { tier: number; track: number };

/** Focus the score cell `down` rows away in the same column. */
function move(column: number, row: number): void {
  document.querySelector<HTMLInputElement>(`[data-cell="${column}:${row}"]`)?.focus();
}

export function Score({
  date,
  gym,
  selected,
}: {
  date: string;
  gym: Schemas["GymOut"];
  selected: string | null;
}) {
  const client = useQueryClient();
  const sheet = useQuery(sheetQuery(date));
  const me = useMyId();
  const again = () => client.invalidateQueries({ queryKey: keys.scores(date) });
  useLive("/api/live", {
    score: (said) => said.date === date && again(),
    again,
  });
  const [chosen, setChosen] = useState<Record<number, Version>>({});
  const [start, setStart] = useState("");
  // What is typed stays on the screen when a later reading of the sheet fails.
  if (sheet.error && !sheet.data) {
    if (sheet.error.status !== 404) {
      return <Failed error={sheet.error} retry={() => sheet.refetch()} />;
    }
    return (
      <Empty>
        <p>No session is written for this day, so there is nothing to score.</p>
      </Empty>
    );
  }
  if (!sheet.data) return <Waiting what="Laying out the sheet" />;
  const { pieces, scores, aside } = sheet.data;
  const starts = [...new Set(sheet.data.rows.flatMap((row) => row.classes))].sort();
  const rows = sheet.data.rows.filter((row) => !start || row.classes.includes(start));
  if (pieces.length === 0) {
    return (
      <Empty>
        <Aside date={date} aside={aside} rows={sheet.data.rows} />
        <p>
          No piece of this day keeps a score. Add one on the board, for example{" "}
          <code>score done</code>.
        </p>
      </Empty>
    );
  }
  const scoreOf = (person: number, key: string): ScoreOut | undefined =>
    scores.find((score) => score.person_id === person && score.piece_key === key);
  const versionOf = (row: Row): Version =>
    chosen[row.person_id] ?? scores.find((score) => score.person_id === row.person_id) ?? row;

  /** Keep a row's scores as they are, in another tier or track. */
  const change = (row: Row, next: Version) => {
    setChosen((all) => ({ ...all, [row.person_id]: next }));
    for (const score of scores.filter((one) => one.person_id === row.person_id)) {
      enqueue(me, {
        kind: "score",
        date,
        key: score.piece_key,
        person: row.person_id,
        mine: false,
        body: {
          entered: score.entered,
          tier: next.tier,
          track: next.track,
          version: score.version,
          request_key: newKey(),
        },
      });
    }
  };
  const firstAway = rows.findIndex((row) => row.classes.length === 0);

  return (
    <div className={styles.wrap}>
      <Aside date={date} aside={aside} rows={sheet.data.rows} />
      {starts.length > 1 && (
        <SegmentedControl
          aria-label="Class"
          className={styles.class}
          value={start}
          onChange={setStart}
          data={[
            { label: "Everybody", value: "" },
            ...starts.map((value) => ({ label: value.slice(0, 5), value })),
          ]}
        />
      )}
      <table className={styles.sheet}>
        <thead>
          <tr>
            <th className={styles.name}>Athlete</th>
            <th>Tier</th>
            <th>Track</th>
            {pieces.map((piece) => (
              <th key={piece.key} data-selected={piece.key === selected || undefined}>
                {piece.title}
                <small className="num">
                  {piece.format} · {piece.kind}
                </small>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => {
            const version = versionOf(row);
            const setTier = (tier: number) =>
              tier < gym.tiers.length && change(row, { ...version, tier });
            const nextTrack = () =>
              change(row, { ...version, track: (version.track + 1) % gym.tracks.length });
            return [
              index === firstAway && (
                <tr key="away" className={styles.split}>
                  <td colSpan={3 + pieces.length}>
                    {index === 0 ? "Nobody is marked as here" : "Not marked as here"}
                  </td>
                </tr>
              ),
              <tr key={row.person_id} data-away={row.classes.length === 0 || undefined}>
                <th scope="row" className={styles.name}>
                  {row.name}
                </th>
                <td>
                  <button
                    type="button"
                    className={fieldStyles.pick}
                    tabIndex={-1}
                    aria-label={`Tier of ${row.name}: ${gym.tiers[version.tier]}`}
                    title="Next tier (Alt and a digit while typing a score)"
                    onClick={() => setTier((version.tier + 1) % gym.tiers.length)}
                  >
                    {gym.tiers[version.tier]}
                  </button>
                </td>
                <td>
                  <button
                    type="button"
                    className={fieldStyles.pick}
                    tabIndex={-1}
                    aria-label={`Track of ${row.name}: ${gym.tracks[version.track]}`}
                    title="Other track (Alt T while typing a score)"
                    onClick={nextTrack}
                  >
                    {gym.tracks[version.track]}
                  </button>
                </td>
                {pieces.map((piece, column) => (
                  <td key={piece.key}>
                    <Cell
                      date={date}
                      piece={piece}
                      name={row.name}
                      person={row.person_id}
                      version={version}
                      kept={scoreOf(row.person_id, piece.key)}
                      place={`${column}:${index}`}
                      onMove={(by) => move(column, index + by)}
                      onTier={setTier}
                      onTrack={nextTrack}
                    />
                  </td>
                ))}
              </tr>,
            ];
          })}
        </tbody>
      </table>
    </div>
  );
}
