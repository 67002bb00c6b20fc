// The scaling sheet: each tier's version once, under it its athletes with what differs for them.
import { Button, Checkbox, NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { memo, useCallback, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { floor as floorQuery, scaling, testrun } from "../../../api/queries";
import { minutes } from "../../../ui/dates";
import { Empty, Failed, Waiting } from "../../../ui/states";
import { Advice, NewHere } from "./Advice";
import { AthleteLine, Chosen } from "./AthleteLine";
import styles from "./Scale.module.css";

type Row = Schemas["Row"];

/** What a tier does, once; its athletes below say only what differs. */
function TierHead({
  name,
  texts,
  count,
  words,
  aim,
}: {
  name: string;
  texts: readonly string[];
  count: number;
  words: string;
  aim: string;
}) {
  return (
    <tr className={styles.tier}>
      <th scope="rowgroup">
        {name} <small className="num">{count}</small>
      </th>
      {texts.map((text, index) => (
        // The same line may stand twice.
        <td key={index}>{text}</td>
      ))}
      <td>
        <span className="num">{words}</span> {aim && <small>{aim}</small>}
      </td>
    </tr>
  );
}

/** One athlete of the sheet; of hundreds only those that change are drawn anew. */
const Athlete = memo(function Athlete({
  row,
  gym,
  movements,
  texts,
  open,
  onOpen,
}: {
  row: Row;
  gym: Schemas["GymOut"];
  movements: readonly string[];
  texts: readonly string[];
  /** The place of the line that is open, if one of theirs is. */
  open: number | null;
  onOpen: (row: number, task: number) => void;
}) {
  return (
    <tr>
      <th scope="row">
        <Link to={`/athletes/${row.id}`}>{row.name}</Link>
        <small> {gym.tracks[row.track]?.toLowerCase()}</small>
      </th>
      {row.versions.map((version, index) => (
        <td key={index} data-of={movements[index]}>
          <AthleteLine
            row={row}
            version={version}
            tier={texts[index] ?? ""}
            open={open === index}
            onOpen={() => onOpen(row.id, index)}
          />
        </td>
      ))}
      <td className={styles.predicted}>
        <span className="num">{row.predicted}</span>
        <Advice row={row} tiers={gym.tiers} />
        <NewHere row={row} />
      </td>
    </tr>
  );
});

const NO_TEXTS: readonly string[] = [];

const called = (row: Row) => `${row.name} ${row.predicted}`.trim();
const differs = (row: Row) =>
  row.versions.some((version) => version.own) || Boolean(row.advice || row.ask?.length);

export function Scale({
  date,
  gym,
  text,
  pieces,
  selected,
}: {
  date: string;
  gym: Schemas["GymOut"];
  text: string;
  pieces: readonly Schemas["PieceOutline"][];
  selected: string | null;
}) {
  const worth = pieces.filter((piece) => piece.role !== "rest");
  const main = worth.find((piece) => piece.role === "conditioning") ?? worth[0];
  const key = worth.find((piece) => piece.key === selected)?.key ?? main?.key ?? "";
  const held = useQuery(floorQuery(date));
  const [chosen, setChosen] = useState("");
  const [cell, setCell] = useState<{ row: number; task: number } | null>(null);
  const open = useCallback((row: number, task: number) => setCell({ row, task }), []);
  const [only, setOnly] = useState(false);
  const classId = chosen === "" ? null : Number(chosen);
  const sheet = useQuery({ ...scaling(date, key, classId), enabled: key !== "" });
  const runs = useQuery(testrun(text, date));
  const run = runs.data?.pieces.find((piece) => piece.key === key);
  const title = worth.find((piece) => piece.key === key)?.title ?? "";
  if (!key) {
    return (
      <Empty>
        <p>Nothing is written to scale yet.</p>
        <Link to={`/day/${date}/write`}>Write the day first</Link>
      </Empty>
    );
  }
  const found = sheet.data;
  return (
    <section className={styles.scale} aria-label={`Scaling of ${title}`}>
      <header className={styles.head}>
        <h2>{title}</h2>
        <NativeSelect
          aria-label="Class"
          size="xs"
          value={chosen}
          onChange={(event) => setChosen(event.currentTarget.value)}
          data={[
            { value: "", label: "Everybody" },
            ...(held.data?.classes ?? [])
              .filter((one) => one.id)
              .map((one) => ({
                value: String(one.id),
                label: `${one.start.slice(0, 5)}, ${one.here.length} here`,
              })),
          ]}
        />
        <Checkbox
          size="sm"
          label="Changes only"
          checked={only}
          onChange={(event) => setOnly(event.currentTarget.checked)}
        />
        <Button size="compact-sm" variant="default" onClick={() => window.print()}>
          Print this sheet
        </Button>
      </header>
      {found && found.kit.length > 0 && (
        <ul className={styles.kit} aria-label="Kit">
          {found.kit.map((need) => (
            <li key={need.kit}>
              <b>{need.kit}</b>: {need.needed} at once, the gym has {need.owned}. {need.heats} heats
              add {minutes(need.heats_add_s)}; or share, {need.share} to one, in turns.
            </li>
          ))}
        </ul>
      )}
      {sheet.error && <Failed error={sheet.error} retry={() => sheet.refetch()} />}
      {sheet.isPending && <Waiting what="Scaling for everybody" />}
      {found && (
        <table className={styles.grid}>
          <thead>
            <tr>
              <th>Athlete</th>
              {found.movements.map((movement, index) => (
                <th key={index}>{movement || `part ${index + 1}`}</th>
              ))}
              <th>Predicted</th>
            </tr>
          </thead>
          {gym.tiers.map((name, tier) => {
            const all = found.rows.filter((row) => row.tier === tier);
            const rows = only ? all.filter(differs) : all;
            const told = run?.tiers[tier];
            if (all.length === 0) return null;
            return (
              <tbody key={name}>
                <TierHead
                  name={name}
                  texts={found.tiers[tier] ?? found.lines}
                  count={all.length}
                  words={told?.words ?? ""}
                  aim={told?.aim ?? ""}
                />
                {rows.map((row) => (
                  <Athlete
                    key={row.id}
                    row={row}
                    gym={gym}
                    movements={found.movements}
                    texts={found.tiers[tier] ?? NO_TEXTS}
                    open={cell?.row === row.id ? cell.task : null}
                    onOpen={open}
                  />
                ))}
                {only && rows.length < all.length && (
                  <tr className={styles.rest}>
                    <td colSpan={found.movements.length + 2}>
                      As the tier:{" "}
                      {all
                        .filter((row) => !differs(row))
                        .map(called)
                        .join(" · ")}
                    </td>
                  </tr>
                )}
              </tbody>
            );
          })}
        </table>
      )}
      <Chosen
        row={found?.rows.find((row) => row.id === cell?.row)}
        gym={gym}
        place={{
          date,
          piece: key,
          task: cell?.task ?? 0,
          movement: found?.movements[cell?.task ?? 0] ?? "",
        }}
        onClose={() => setCell(null)}
      />
    </section>
  );
}
