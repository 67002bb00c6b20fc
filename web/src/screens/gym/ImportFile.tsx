// A file of another program: its columns, what is doubtful, what would be added, then saved as one.
import { Button, FileButton, NativeSelect } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writes";
import fieldStyles from "../../ui/fields.module.css";
import wordStyles from "../../ui/words.module.css";
import styles from "./Exports.module.css";

type Looked = Schemas["Looked"];
type What = Looked["what"];

const FIELDS: Record<What, string[]> = {
  scores: ["date", "piece", "person", "given", "family", "entered", "tier", "track", "unit"],
  people: ["name", "given", "family", "email", "born", "sex", "tier", "joined", "emergency"],
  bests: ["person", "given", "family", "lift", "entered", "unit", "reps"],
  classes: ["weekday", "time", "places"],
  kit: ["what", "count", "size", "unit"],
};
/** Fields as a coach calls them. */
const CALLED: Record<string, string> = {
  entered: "result",
  person: "athlete",
  given: "first name",
  family: "last name",
  piece: "workout",
  born: "birthday",
  sex: "sex (load track)",
  what: "item",
};
const SHOWN = 20;
const rows = (count: number) => `${count} row${count === 1 ? "" : "s"}`;

async function encoded(file: File): Promise<string> {
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(file);
  });
  return url.slice(url.indexOf(",") + 1);
}

function Columns({
  looked,
  columns,
  onChange,
}: {
  looked: Looked;
  columns: Record<string, string>;
  onChange: (heading: string, field: string) => void;
}) {
  const fields = FIELDS[looked.what].map((field) => ({
    value: field,
    label: CALLED[field] ?? field,
  }));
  return (
    <div className={styles.asks}>
      {looked.headings.map((heading) => (
        <NativeSelect
          key={heading}
          size="xs"
          label={`Column “${heading}”`}
          value={columns[heading] ?? looked.columns[heading] ?? ""}
          data={[{ value: "", label: "not used" }, ...fields]}
          onChange={(event) => onChange(heading, event.currentTarget.value)}
        />
      ))}
    </div>
  );
}

export function ImportFile() {
  const [file, setFile] = useState<{ name: string; content: string } | null>(null);
  const [what, setWhat] = useState<What | null>(null);
  const [columns, setColumns] = useState<Record<string, string>>({});
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [looked, setLooked] = useState<Looked | null>(null);
  const [problem, setProblem] = useState("");
  const [done, setDone] = useState("");
  const refused = { onRefused: (refusal: { message: string }) => setProblem(refusal.message) };
  const look = useWrite(
    (body: Schemas["FileForm"]) => ask(api.POST("/api/imports/look", { body })),
    {
      ...refused,
      onDone: (found) => {
        setLooked(found);
        setProblem("");
      },
    },
  );
  const save = useWrite((body: Schemas["FileForm"]) => ask(api.POST("/api/imports", { body })), {
    ...refused,
    onDone: (made) => {
      setDone(`Imported: ${made.new} new, ${made.changed} changed. Undo it below.`);
      setFile(null);
      setLooked(null);
    },
    touches: () => [[]],
  });
  const again = (
    next: Partial<Schemas["FileForm"]>,
    content = file?.content ?? "",
    kind: What | null = what,
  ) => look.mutate({ content, what: kind, columns, answers, ...next });
  const choose = async (chosen: File | null) => {
    if (!chosen) return;
    const content = await encoded(chosen);
    setFile({ name: chosen.name, content });
    setWhat(null);
    setColumns({});
    setAnswers({});
    setLooked(null);
    setDone("");
    again({ columns: {}, answers: {} }, content, null);
  };
  return (
    <section aria-label="Import a file" className={styles.away}>
      <h2>Import a file</h2>
      <p>
        Scores, people, bests, classes or kit from another program: CSV or XLSX, any language.
        Nothing is saved until you have seen what it means.
      </p>
      <div className={fieldStyles.lineTools}>
        <FileButton accept=".csv,.txt,.tsv,.xlsx" onChange={choose}>
          {(props) => (
            <Button {...props} variant="default" loading={look.isPending}>
              Choose a file
            </Button>
          )}
        </FileButton>
        {file && looked && (
          <NativeSelect
            size="xs"
            aria-label="What the file holds"
            value={looked.what}
            data={Object.keys(FIELDS)}
            onChange={(event) => {
              const kind = event.currentTarget.value as What;
              setWhat(kind);
              setColumns({});
              again({ columns: {} }, file.content, kind);
            }}
          />
        )}
        {done && <span role="status">{done}</span>}
      </div>
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      {file && looked && (
        <>
          <p>
            {file.name}: {rows(looked.rows)}
          </p>
          <Columns
            looked={looked}
            columns={columns}
            onChange={(heading, field) => {
              const next = { ...columns, [heading]: field };
              setColumns(next);
              again({ columns: next });
            }}
          />
          {looked.questions.length > 0 && (
            <fieldset className={styles.asks}>
              <legend>Please check. The likeliest answer is chosen.</legend>
              {looked.questions.map((question) => (
                <NativeSelect
                  key={question.id}
                  size="xs"
                  label={question.text}
                  value={answers[question.id] ?? question.guess}
                  data={[...question.choices]}
                  onChange={(event) => {
                    const next = { ...answers, [question.id]: event.currentTarget.value };
                    setAnswers(next);
                    again({ answers: next });
                  }}
                />
              ))}
            </fieldset>
          )}
          <p role="status">
            {looked.new} new, {looked.changed} changed, {looked.same} already here,{" "}
            {rows(looked.skipped.length)} left out.
          </p>
          {looked.skipped.length > 0 && (
            <details>
              <summary>Rows left out</summary>
              <ul>
                {looked.skipped.slice(0, SHOWN).map((one) => (
                  <li key={one.row}>
                    row {one.row}: {one.why}
                  </li>
                ))}
                {looked.skipped.length > SHOWN && <li>and {looked.skipped.length - SHOWN} more</li>}
              </ul>
            </details>
          )}
          <Button
            disabled={looked.new + looked.changed === 0}
            loading={save.isPending}
            onClick={() =>
              save.mutate({ content: file.content, what: looked.what, columns, answers })
            }
          >
            Import {looked.new + looked.changed} of {rows(looked.rows)}
          </Button>
        </>
      )}
    </section>
  );
}
