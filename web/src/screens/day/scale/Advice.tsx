// What keeps the intent for one athlete, and the few numbers asked of someone new.
import { Button, NumberInput, Popover } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { gym as gymQuery, profile } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import fieldStyles from "../../../ui/fields.module.css";
import { Failed, Waiting } from "../../../ui/states";
import { keptWeight, type Weight } from "../../../ui/weights";
import styles from "./Scale.module.css";

type Row = Schemas["Row"];
type Question = Schemas["Question"];

/** Where a prediction lies outside the intent: what would keep it, and a press that takes it. */
export function Advice({ row, tiers }: { row: Row; tiers: readonly string[] }) {
  const advice = row.advice;
  const take = useWrite(
    (own: { movement: string; text: string }) =>
      ask(
        api.PUT("/api/athletes/{athlete_id}/override", {
          params: { path: { athlete_id: row.id } },
          body: own,
        }),
      ),
    { touches: () => [keys.days], said: (own) => `${row.name}: ${own.text}, remembered.` },
  );
  if (!advice) return null;
  const rung = advice.tier === null || advice.tier === undefined;
  const what = rung ? advice.instead : (tiers[advice.tier ?? 0] ?? "another tier");
  const does = advice.keeps ? "keeps the aim" : "comes nearer";
  return (
    <div className={styles.advice}>
      <span>
        <b>{what}</b> {does}: {advice.after} <small>(aim {advice.intent})</small>
      </span>
      {rung && (
        <Button
          size="compact-xs"
          variant="default"
          aria-label={`${row.name}: take ${advice.instead}`}
          loading={take.isPending}
          onClick={() => take.mutate({ movement: advice.movement ?? "", text: advice.text ?? "" })}
        >
          Take
        </Button>
      )}
    </div>
  );
}

const WORDS: Record<
  Question["of"],
  { label: (movement: string) => string; unit: (load: Weight) => string }
> = {
  best: { label: (movement) => `Heaviest ${movement}`, unit: (load) => ` ${load}` },
  reps: { label: (movement) => `How many ${movement} in a row`, unit: () => "" },
  seconds: { label: (movement) => `How long a ${movement}`, unit: () => " s" },
};

/** Nothing is known of them yet: the numbers that would tell most, asked once. */
export function NewHere({ row }: { row: Row }) {
  const [open, setOpen] = useState(false);
  if (!row.ask?.length) return null;
  return (
    <Popover opened={open} onChange={setOpen} width={300} position="bottom-end" trapFocus>
      <Popover.Target>
        <Button
          size="compact-xs"
          variant="default"
          aria-label={`No data yet: ask ${row.name}`}
          onClick={() => setOpen(!open)}
        >
          No data yet: ask
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <Questions row={row} questions={row.ask} onKept={() => setOpen(false)} />
      </Popover.Dropdown>
    </Popover>
  );
}

function Questions({
  row,
  questions,
  onKept,
}: {
  row: Row;
  questions: readonly Question[];
  onKept: () => void;
}) {
  const known = useQuery(profile(row.id));
  const gymUnit = useQuery(gymQuery).data?.unit;
  const [said, setSaid] = useState<Record<string, number>>({});
  const [problem, setProblem] = useState("");
  const keep = useWrite(
    (body: Schemas["ProfileForm"]) =>
      ask(
        api.PUT("/api/athletes/{athlete_id}/profile", {
          params: { path: { athlete_id: row.id } },
          body,
        }),
      ),
    {
      onDone: onKept,
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.athletes, keys.days],
      said: () => `${row.name}: kept.`,
    },
  );
  if (known.error) return <Failed error={known.error} retry={() => known.refetch()} />;
  if (!known.data) return <Waiting what="What is known" />;
  const { profile: before, version } = known.data;
  const unit = before.unit ?? gymUnit ?? "kg";
  const send = (event: FormEvent) => {
    event.preventDefault();
    const told = (of: (question: Question) => boolean) =>
      Object.fromEntries(
        questions
          .filter(of)
          .map((question) => [question.movement, said[question.movement]])
          .filter(([, number]) => number),
      );
    const bests = Object.fromEntries(
      Object.entries(told((question) => question.of === "best")).map(([lift, load]) => [
        lift,
        keptWeight(Number(load), unit),
      ]),
    );
    const longest = told((question) => question.of !== "best");
    keep.mutate({
      version,
      profile: {
        ...before,
        bests: { ...before.bests, ...bests },
        longest: { ...before.longest, ...longest },
      },
    });
  };
  return (
    <form onSubmit={send} className="stack">
      {questions.map((question) => (
        <NumberInput
          key={question.movement}
          label={WORDS[question.of].label(question.movement)}
          description={question.of === "best" ? "For one rep, as near as they know" : undefined}
          suffix={WORDS[question.of].unit(unit)}
          min={0}
          max={question.of === "best" ? 1200 : 3600}
          value={said[question.movement] ?? ""}
          onChange={(number) =>
            typeof number === "number" &&
            setSaid((all) => ({ ...all, [question.movement]: number }))
          }
        />
      ))}
      {problem && <p role="alert">{problem}</p>}
      <div className={fieldStyles.lineTools}>
        <Button type="submit" size="compact-sm" loading={keep.isPending}>
          Save
        </Button>
      </div>
    </form>
  );
}
