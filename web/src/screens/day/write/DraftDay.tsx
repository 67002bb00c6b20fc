// An empty day proposed from the gym's own boards: three drafts, each line with its reason.
import { Button, Checkbox, NativeSelect, TextInput } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writes";
import styles from "./DraftDay.module.css";

type Draft = Schemas["DraftOut"];
type Purpose = NonNullable<Schemas["DraftForm"]["purpose"]>;

const PURPOSES: readonly { value: Purpose | ""; label: string }[] = [
  { value: "", label: "Any" },
  { value: "strength", label: "Strength" },
  { value: "power", label: "Power" },
  { value: "skill", label: "Skill" },
  { value: "hard engine", label: "Hard engine" },
  { value: "easy engine", label: "Easy engine" },
  { value: "grunt", label: "Simple hard work" },
  { value: "same pattern", label: "One pattern, slow then fast" },
];
const listed = (text: string) =>
  text
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);

/** One draft: its board, its minutes, and why each line is as it is. */
function Proposal({ draft, onUse }: { draft: Draft; onUse: () => void }) {
  const lines = draft.text.split("\n");
  return (
    <li className={styles.draft}>
      <h3>
        {draft.title || "Draft"}{" "}
        <small className="num">about {Math.round(draft.minutes.p50)} min</small>
      </h3>
      <pre>{draft.text}</pre>
      <details>
        <summary>Why</summary>
        <ul>
          {draft.reasons.map((one) => (
            <li key={`${one.line} ${one.reason}`}>
              <b>{lines[one.line - 1]?.replace(/^#+ /, "")}</b>: {one.reason}
              {one.source && <small> ({one.source})</small>}
            </li>
          ))}
        </ul>
      </details>
      <Button onClick={onUse} aria-label={`Use the draft ${draft.title}`}>
        Use this draft
      </Button>
    </li>
  );
}

export function DraftDay({ date, onText }: { date: string; onText: (text: string) => void }) {
  const [purpose, setPurpose] = useState<Purpose | "">("");
  const [want, setWant] = useState("");
  const [avoid, setAvoid] = useState("");
  const [indoors, setIndoors] = useState(false);
  const [seed, setSeed] = useState(1);
  const [drafts, setDrafts] = useState<readonly Draft[]>([]);
  const [problem, setProblem] = useState("");
  const propose = useWrite(
    (next: number) =>
      ask(
        api.POST("/api/days/{date}/drafts", {
          params: { path: { date } },
          body: {
            purpose: purpose || null,
            want: listed(want),
            avoid: listed(avoid),
            no_running: indoors,
            seed: next,
          },
        }),
      ),
    {
      onDone: (made, next) => {
        setDrafts(made);
        setSeed(next);
        setProblem("");
      },
      onRefused: (refusal) => {
        setDrafts([]);
        setProblem(refusal.message);
      },
    },
  );
  return (
    <div className={styles.form}>
      <div className={styles.wishes}>
        <NativeSelect
          label="Purpose"
          value={purpose}
          onChange={(event) => setPurpose(event.currentTarget.value as Purpose | "")}
          data={[...PURPOSES]}
        />
        <TextInput
          label="With"
          placeholder="pull-up, squat"
          value={want}
          onChange={(event) => setWant(event.currentTarget.value)}
        />
        <TextInput
          label="Without"
          placeholder="jumping, overhead"
          value={avoid}
          onChange={(event) => setAvoid(event.currentTarget.value)}
        />
        <Checkbox
          label="No running"
          checked={indoors}
          onChange={(event) => setIndoors(event.currentTarget.checked)}
        />
        <Button loading={propose.isPending} onClick={() => propose.mutate(seed)}>
          Draft three days
        </Button>
        {drafts.length > 0 && (
          <Button
            variant="default"
            disabled={propose.isPending}
            onClick={() => propose.mutate(seed + 1)}
          >
            Other drafts
          </Button>
        )}
      </div>
      {problem && <p role="alert">No draft: {problem}</p>}
      {drafts.length > 0 && (
        <ul className={styles.drafts} aria-label="Drafts">
          {drafts.map((draft) => (
            <Proposal key={draft.text} draft={draft} onUse={() => onText(draft.text)} />
          ))}
        </ul>
      )}
    </div>
  );
}
