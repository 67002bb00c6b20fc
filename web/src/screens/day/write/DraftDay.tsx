// An empty day proposed from the gym's own boards: three drafts, each line with its reason.
import { Button, NativeSelect } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writes";
import { Draft, type Drafted, Drafts } from "../../../training/Draft";
import { useDraftWishes } from "../../../training/useDraftWishes";
import styles from "./DraftDay.module.css";

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

export function DraftDay({ date, onText }: { date: string; onText: (text: string) => void }) {
  const [purpose, setPurpose] = useState<Purpose | "">("");
  const { fields, wishes } = useDraftWishes();
  const [seed, setSeed] = useState(1);
  const [drafts, setDrafts] = useState<readonly Drafted[]>([]);
  const [problem, setProblem] = useState("");
  const propose = useWrite(
    (next: number) =>
      ask(
        api.POST("/api/days/{date}/drafts", {
          params: { path: { date } },
          body: { ...wishes, purpose: purpose || null, seed: next, count: 3, by_turn: false },
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
    <div>
      <div className={styles.wishes}>
        <NativeSelect
          label="Purpose"
          value={purpose}
          onChange={(event) => setPurpose(event.currentTarget.value as Purpose | "")}
          data={[...PURPOSES]}
        />
        {fields}
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
        <Drafts label="Drafts">
          {drafts.map((draft) => (
            <li key={draft.text}>
              <Draft draft={draft}>
                <Button
                  onClick={() => onText(draft.text)}
                  aria-label={`Use the draft ${draft.title}`}
                >
                  Use this draft
                </Button>
              </Draft>
            </li>
          ))}
        </Drafts>
      )}
    </div>
  );
}
