// The score sheet: a quiet grid filled by keyboard alone.
import { SegmentedControl, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useLive } from "../../../api/live";
import { sheet as sheetQuery } from "../../../api/queries";
import { useMyId } from "../../../api/useMyId";
import { keep as enqueue } from "../../../offline/outbox";
import { newKey } from "../../../offline/queue";
import { Standings } from "../../../training/Standings";
import fieldStyles from "../../../ui/fields.module.css";
import { Empty, Failed, Waiting } from "../../../ui/states";
import { type Acts, Cell } from "./Cell";
import { OrphanedScores } from "./OrphanedScores";
import styles from "./Score.module.css";

type Row = Schemas["SheetRow"];
type ScoreOut = Schemas["ScoreOut"];
type Version = { tier: number; track: number };
type Only = "all" | "left" | "doubted";

/** Standings of a score that wait for a coach. */
const OPEN = new Set(["doubted", "asked", "answered"]);

const NOBODY_LEFT_OUT = {};

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
  const [name, setName] = useState("");
  const [only, setOnly] = useState<Only>("all");
  // The piece whose cell was focused last: its standings are beside the sheet.
  const [at, setAt] = useState("");
  const sought = useDeferredValue(name.trim().toLowerCase());
  const byPerson = useMemo(() => {
    const found = new Map<number, ScoreOut[]>();
    for (const score of sheet.data?.scores ?? []) {
      found.set(score.person_id, [...(found.get(score.person_id) ?? []), score]);
    }
    return found;
  }, [sheet.data?.scores]);
  // Cells keep one object of acts; what these do follows the sheet.
  const change = useRef<(person: number, next: (version: Version) => Version) => void>(undefined);
  const acts = useMemo<Acts>(
    () => ({
      at: setAt,
      move,
      tier: (person, tier) => change.current?.(person, (version) => ({ ...version, tier })),
      track: (person) =>
        change.current?.(person, (version) => ({
          ...version,
          track: (version.track + 1) % gym.tracks.length,
        })),
    }),
    [gym.tracks.length],
  );
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
  const { pieces, aside } = sheet.data;
  const scoreOf = (person: number, key: string): ScoreOut | undefined =>
    byPerson.get(person)?.find((score) => score.piece_key === key);
  const starts = [...new Set(sheet.data.rows.flatMap((row) => row.classes))].sort();
  const left = (row: Row) => pieces.some((piece) => !scoreOf(row.person_id, piece.key));
  const doubted = (row: Row) =>
    byPerson.get(row.person_id)?.some((s) => OPEN.has(s.standing ?? "fine")) ?? false;
  const rows = sheet.data.rows.filter(
    (row) =>
      (!start || row.classes.includes(start)) &&
      row.name.toLowerCase().includes(sought) &&
      (only === "all" || (only === "left" ? left(row) : doubted(row))),
  );
  const doubts = sheet.data.rows.filter(doubted).length;
  if (pieces.length === 0) {
    return (
      <Empty>
        <OrphanedScores date={date} aside={aside} rows={sheet.data.rows} />
        <p>
          No piece of this day keeps a score. Add one on the board, for example{" "}
          <code>score done</code>.
        </p>
      </Empty>
    );
  }
  const versionOf = (row: Row): Version =>
    chosen[row.person_id] ?? byPerson.get(row.person_id)?.[0] ?? row;

  /** Keep a row's scores as they are, in another tier or track. */
  change.current = (person, turned) => {
    const row = sheet.data.rows.find((one) => one.person_id === person);
    const next = row && turned(versionOf(row));
    if (!next || next.tier >= gym.tiers.length) return;
    setChosen((all) => ({ ...all, [person]: next }));
    for (const score of byPerson.get(person) ?? []) {
      enqueue(me, {
        kind: "score",
        date,
        key: score.piece_key,
        person,
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
  const beside =
    pieces.find((piece) => piece.key === (at || selected)) ?? pieces[pieces.length - 1];
  const firstAway = rows.findIndex((row) => row.classes.length === 0);

  return (
    <div className={styles.screen}>
      <div className={styles.wrap}>
        <OrphanedScores date={date} aside={aside} rows={sheet.data.rows} />
        <div className={styles.tools}>
          {starts.length > 1 && (
            <SegmentedControl
              aria-label="Class"
              value={start}
              onChange={setStart}
              data={[
                { label: "Everybody", value: "" },
                ...starts.map((value) => ({ label: value.slice(0, 5), value })),
              ]}
            />
          )}
          <SegmentedControl
            aria-label="Which rows"
            value={only}
            onChange={(value) => setOnly(value as Only)}
            data={[
              { label: "All", value: "all" },
              { label: "Still to score", value: "left" },
              { label: doubts ? `To verify (${doubts})` : "To verify", value: "doubted" },
            ]}
          />
          <TextInput
            aria-label="Find a name"
            placeholder="Find a name"
            type="search"
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter") move(0, 0);
              if (event.key === "Escape") setName("");
            }}
          />
        </div>
        <table className={styles.sheet} aria-label="Scores">
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
                  {piece.example && <small className="num">written {piece.example}</small>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => {
              const version = versionOf(row);
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
                      onClick={() =>
                        acts.tier(row.person_id, (version.tier + 1) % gym.tiers.length)
                      }
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
                      onClick={() => acts.track(row.person_id)}
                    >
                      {gym.tracks[version.track]}
                    </button>
                  </td>
                  {pieces.map((piece, column) => (
                    <td key={piece.key} className={styles.entry} data-piece={piece.title}>
                      <Cell
                        date={date}
                        piece={piece}
                        name={row.name}
                        person={row.person_id}
                        tier={version.tier}
                        track={version.track}
                        kept={scoreOf(row.person_id, piece.key)}
                        column={column}
                        row={index}
                        acts={acts}
                      />
                    </td>
                  ))}
                </tr>,
              ];
            })}
          </tbody>
        </table>
        {rows.length === 0 && <p role="status">No athlete matches.</p>}
      </div>
      {beside && (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, by keys as well
        <aside className={styles.beside} tabIndex={0} aria-label={`Standings of ${beside.title}`}>
          <h2>{beside.title}</h2>
          <Standings date={date} pieceKey={beside.key} gym={gym} filter={NOBODY_LEFT_OUT} bare />
        </aside>
      )}
    </div>
  );
}
