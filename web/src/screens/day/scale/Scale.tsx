// The scaling sheet: athletes down, lines across; quiet where a cell equals the tier.
import { Button, Popover, Select, TextInput, VisuallyHidden } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { floor as floorQuery, scaling, testrun } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { TestrunBand } from "../../../session/TestrunBand";
import { minutes } from "../../../ui/dates";
import fieldStyles from "../../../ui/fields.module.css";
import { Empty, Failed, Waiting } from "../../../ui/states";
import { Advice, NewHere } from "./Advice";
import styles from "./Scale.module.css";

type Version = Schemas["Version"];
type Row = Schemas["Row"];

/** One version: what it is, why, and the coach's own word for it. */
function Cell({
  row,
  version,
  line,
  movement,
  onChanged,
}: {
  row: Row;
  version: Version;
  line: string;
  movement: string;
  onChanged: () => Promise<unknown>;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState(version.text);
  const [problem, setProblem] = useState("");
  const send = useWrite(
    (own: string) =>
      ask(
        api.PUT("/api/athletes/{athlete_id}/override", {
          params: { path: { athlete_id: row.id } },
          body: { movement, text: own },
        }),
      ),
    {
      onDone: () => {
        setOpen(false);
        onChanged();
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(text);
  };
  return (
    <Popover opened={open} onChange={setOpen} width={340} position="bottom-start" trapFocus>
      <Popover.Target>
        <button
          type="button"
          className={styles.cell}
          data-own={version.own || undefined}
          data-agree={version.agree || undefined}
          title={version.reason || line}
          onClick={() => {
            setText(version.text);
            setProblem("");
            setOpen(!open);
          }}
        >
          <VisuallyHidden>{row.name}: </VisuallyHidden>
          {version.own ? version.text : <span className={styles.same}>{version.text}</span>}
          {version.loading && <small> {version.loading}</small>}
          {version.overridden && <small> coach’s choice</small>}
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={submit} className="stack">
          <p className={styles.reason}>
            {version.reason || "The tier’s version: nothing noted speaks against it."}
          </p>
          <TextInput
            label={`${row.name} does`}
            value={text}
            onChange={(event) => setText(event.currentTarget.value)}
            error={problem}
          />
          <div className={fieldStyles.lineTools}>
            <Button type="submit" size="compact-sm">
              Set and remember
            </Button>
            {version.overridden && (
              <Button size="compact-sm" variant="default" onClick={() => send.mutate("")}>
                Back to the recommendation
              </Button>
            )}
          </div>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}

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
  const client = useQueryClient();
  const worth = pieces.filter((piece) => piece.role !== "rest");
  const main = worth.find((piece) => piece.role === "conditioning") ?? worth[0];
  const key = worth.find((piece) => piece.key === selected)?.key ?? main?.key ?? "";
  const held = useQuery(floorQuery(date));
  const [chosen, setChosen] = useState<string | null>(null);
  const classId = chosen === null ? null : Number(chosen);
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
        <Select
          aria-label="Class"
          placeholder="Everybody"
          clearable
          size="xs"
          value={chosen}
          onChange={setChosen}
          data={(held.data?.classes ?? [])
            .filter((one) => one.id)
            .map((one) => ({
              value: String(one.id),
              label: `${one.start.slice(0, 5)}, ${one.here.length} here`,
            }))}
        />
        <Button size="compact-sm" variant="default" onClick={() => window.print()}>
          Print this sheet
        </Button>
      </header>
      {run && <TestrunBand title={title} piece={run} tier={0} />}
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
              <th>Tier</th>
              {found.lines.map((line, index) => (
                // The same line may stand twice.
                <th key={index}>{line}</th>
              ))}
              <th>Predicted</th>
            </tr>
          </thead>
          <tbody>
            {found.rows.map((row) => (
              <tr key={row.id}>
                <th scope="row">
                  <Link to={`/athletes/${row.id}`}>{row.name}</Link>
                </th>
                <td>
                  {gym.tiers[row.tier]}
                  <small> {gym.tracks[row.track]?.toLowerCase()}</small>
                </td>
                {row.versions.map((version, index) => (
                  <td key={index}>
                    <Cell
                      row={row}
                      version={version}
                      line={found.lines[index] ?? ""}
                      movement={found.movements[index] ?? ""}
                      onChanged={() => client.invalidateQueries({ queryKey: keys.days })}
                    />
                  </td>
                ))}
                <td className={styles.predicted}>
                  <span className="num">{row.predicted}</span>
                  <Advice row={row} tiers={gym.tiers} />
                  <NewHere row={row} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
