// Bests, class times and kit from a table: looked at line by line, then kept.
import { Button, NativeSelect, Textarea } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writes";
import { FromFile } from "../../ui/FromFile";
import fieldStyles from "../../ui/fields.module.css";
import wordStyles from "../../ui/words.module.css";
import styles from "./Exports.module.css";

const COLUMNS = {
  bests: "person,movement,best,unit",
  classes: "weekday,start,minutes,places,hall",
  kit: "kit,count",
} as const;
type Table = keyof typeof COLUMNS;
type Line = Schemas["IntakeLine"];

const counted = (lines: readonly Line[], what: Line["what"]) =>
  lines.filter((line) => line.what === what).length;

export function ImportTables() {
  const [table, setTable] = useState<Table>("bests");
  const [text, setText] = useState("");
  const [lines, setLines] = useState<readonly Line[] | null>(null);
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState("");
  const send = useWrite(
    (keep: boolean) =>
      ask(api.POST("/api/tables/{table}", { params: { path: { table } }, body: { text, keep } })),
    {
      onDone: (found, kept) => {
        setLines(kept ? null : found);
        if (!kept) return;
        setSaid(`${counted(found, "new") + counted(found, "changed")} kept.`);
        setText("");
      },
      onRefused: (refusal) => setProblem(refusal.message),
      touches: (kept) => (kept ? [[]] : []),
    },
  );
  const change = (set: () => void) => {
    set();
    setLines(null);
    setSaid("");
    setProblem("");
  };
  const worth = lines ? counted(lines, "new") + counted(lines, "changed") : 0;
  return (
    <section aria-label="Tables" className={styles.away}>
      <h2>Bests, classes and kit from a table</h2>
      <div className={fieldStyles.lineTools}>
        <NativeSelect
          label="What it holds"
          value={table}
          data={Object.keys(COLUMNS)}
          onChange={(event) => {
            const value = event.currentTarget.value as Table;
            change(() => setTable(value));
          }}
        />
      </div>
      <Textarea
        label="The table's rows"
        description={`Its first row names the columns: ${COLUMNS[table]}`}
        autosize
        minRows={3}
        maxRows={10}
        value={text}
        onChange={(event) => {
          const value = event.currentTarget.value;
          change(() => setText(value));
        }}
      />
      <div className={fieldStyles.lineTools}>
        <FromFile onText={(value) => change(() => setText(value))} />
        <Button
          variant="default"
          disabled={!text.trim()}
          loading={send.isPending}
          onClick={() => send.mutate(false)}
        >
          Look at it
        </Button>
        {worth > 0 && (
          <Button loading={send.isPending} onClick={() => send.mutate(true)}>
            Save {worth}
          </Button>
        )}
        {said && <span role="status">{said}</span>}
      </div>
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      {lines && (
        <ul>
          {lines.map((line) => (
            <li key={line.line}>
              {line.text} <small>{line.why ? `${line.what}: ${line.why}` : line.what}</small>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
