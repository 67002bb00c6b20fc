// Old scores brought in from a table: looked at first, doubtful names answered, taken back whole.
import { Button, NativeSelect, Textarea } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { FromFile } from "../../ui/FromFile";
import fieldStyles from "../../ui/fields.module.css";
import wordStyles from "../../ui/words.module.css";
import styles from "./Exports.module.css";

type Look = Schemas["Look"];

const NEW = "0";
const LATER = "";
const few = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;

/** What a table means, in a sentence. */
function summary({ counts, days }: Look): string {
  const parts = [
    few(counts.new ?? 0, "new score"),
    counts.there && `${counts.there} there already`,
    counts.doubtful && `${counts.doubtful} of doubtful names`,
    counts.refused && `${counts.refused} refused`,
  ].filter(Boolean);
  const made = days.length ? ` ${few(days.length, "day")} will be written for them.` : "";
  return `${parts.join(", ")}.${made}`;
}

function Asks({
  asks,
  names,
  named,
  onName,
}: {
  asks: Look["asks"];
  names: Map<number, string>;
  named: Record<string, string>;
  onName: (name: string, who: string) => void;
}) {
  const everybody = [...names].map(([id, label]) => ({ value: String(id), label }));
  return (
    <div className={styles.asks}>
      {asks.map((one) => {
        const likely = one.likely.map((id) => ({
          value: String(id),
          label: names.get(id) ?? "loading the name…",
        }));
        return (
          <NativeSelect
            key={one.name}
            size="xs"
            label={`Who is ${one.name}? ${few(one.scores, "score")}`}
            value={named[one.name] ?? LATER}
            data={[
              { value: LATER, label: "leave out" },
              { value: NEW, label: "somebody new" },
              { group: "Most like it", items: likely },
              { group: "Everybody", items: everybody },
            ]}
            onChange={(event) => onName(one.name, event.currentTarget.value)}
          />
        );
      })}
    </div>
  );
}

function Imports() {
  const found = useQuery({
    queryKey: keys.imports,
    queryFn: ({ signal }) => ask(api.GET("/api/scores/imports", { signal })),
  });
  const [said, setSaid] = useState("");
  const back = useWrite(
    (id: number) =>
      ask(api.DELETE("/api/scores/imports/{import_id}", { params: { path: { import_id: id } } })),
    {
      onDone: (done) =>
        setSaid(
          `${few(done.scores, "score")} taken back.${
            done.kept ? ` ${few(done.kept, "score")} changed since stay.` : ""
          }`,
        ),
      touches: () => [[]],
    },
  );
  return (
    <>
      {found.data && found.data.length > 0 && (
        <ul className={styles.imports}>
          {found.data.map((one) => (
            <li key={one.id}>
              {few(one.scores, "score")}, {few(one.days, "day")}, brought in{" "}
              {new Date(one.made_at).toLocaleDateString("en", { day: "numeric", month: "long" })}
              {one.by && ` by ${one.by}`}{" "}
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Undo: ${few(one.scores, "score")}`}
                onClick={() => back.mutate(one.id)}
              >
                Undo
              </Button>
            </li>
          ))}
        </ul>
      )}
      {said && <p role="status">{said}</p>}
    </>
  );
}

export function ImportScores() {
  const [text, setText] = useState("");
  const [look, setLook] = useState<Look | null>(null);
  const [named, setNamed] = useState<Record<string, string>>({});
  // Names that were asked about stay, so that an answer can be taken back.
  const [asks, setAsks] = useState<Look["asks"]>([]);
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState("");
  const people = useQuery({
    queryKey: keys.people,
    queryFn: ({ signal }) => ask(api.GET("/api/people", { signal })),
    enabled: asks.length > 0,
  });
  const names = new Map(people.data?.map((one) => [one.id, one.name]));
  const answers = Object.fromEntries(
    Object.entries(named)
      .filter(([, who]) => who !== LATER)
      .map(([name, who]) => [name, Number(who)]),
  );
  const refused = { onRefused: (refusal: { message: string }) => setProblem(refusal.message) };
  const body = { text, named: answers };
  const read = useWrite(() => ask(api.POST("/api/scores/import/look", { body })), {
    ...refused,
    onDone: (found) => {
      setLook(found);
      setAsks((before) => {
        const there = new Set(before.map((one) => one.name));
        return [...before, ...found.asks.filter((one) => !there.has(one.name))];
      });
    },
  });
  const keep = useWrite(() => ask(api.POST("/api/scores/import", { body })), {
    ...refused,
    onDone: (made) => {
      setSaid(`${few(made.scores, "score")} brought in.`);
      setText("");
      setLook(null);
      setNamed({});
      setAsks([]);
    },
    touches: () => [[]],
  });
  const change = (value: string) => {
    setText(value);
    setLook(null);
    setNamed({});
    setAsks([]);
    setSaid("");
    setProblem("");
  };
  return (
    <section aria-label="Old scores" className={styles.away}>
      <h2>Old scores</h2>
      <p>
        A table with the columns date, piece, person and entered; where you have them tier, track
        and board. Nothing is kept before you have looked at it.
      </p>
      <Textarea
        label="The table"
        autosize
        minRows={3}
        maxRows={10}
        placeholder={"date,piece,person,entered\n2026-03-03,Two miles,Ada Quill,15:12"}
        value={text}
        onChange={(event) => change(event.currentTarget.value)}
      />
      <div className={fieldStyles.lineTools}>
        <FromFile onText={change} />
        <Button
          variant="default"
          disabled={!text.trim()}
          loading={read.isPending}
          onClick={() => read.mutate(undefined)}
        >
          Look at it
        </Button>
        {(look?.counts.new ?? 0) > 0 && (
          <Button loading={keep.isPending} onClick={() => keep.mutate(undefined)}>
            Import
          </Button>
        )}
        {said && <span role="status">{said}</span>}
      </div>
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      <Asks
        asks={asks}
        names={names}
        named={named}
        onName={(name, who) => {
          // With another answer the table means something else: it is looked at again.
          setNamed((before) => ({ ...before, [name]: who }));
          setLook(null);
        }}
      />
      {look && (
        <>
          <p role="status">{summary(look)}</p>
          {look.lines.length > 0 && (
            <ul>
              {look.lines.map((line) => (
                <li key={line.line}>
                  line {line.line}: {line.why}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      <Imports />
    </section>
  );
}
