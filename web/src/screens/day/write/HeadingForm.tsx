// The heading of a piece as a form: role, name, how it is timed, and what else is said of it.
import { Button, Checkbox, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { boardWords } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import fieldStyles from "../../../ui/fields.module.css";
import { Failed, Waiting } from "../../../ui/states";
import wordStyles from "../../../ui/words.module.css";
import { SideForm } from "./SideForm";

type Form = Schemas["HeadingForm"];
type Kind = Schemas["FormatOut"];
type Rule = Kind["rules"][number];
type Field = "name" | Kind["fields"][number]["field"] | Typed;
type Typed = Exclude<Rule, keyof typeof CHOICES | (typeof TICKS)[number][0]>;

const MORE: [Typed, string, string][] = [
  ["rest", "Rest between", "1:30 or 1:30-2:00"],
  ["cap", "Cap", "15:00"],
  ["target", "Target", "5-7 rounds, 12:00-16:00"],
  ["aim", "Work hoped for in a window", "0:40"],
  ["work", "Work ends in each window at", "0:40"],
  ["each_round", "Reps more each round", "+2"],
  ["team_size", "Teams of", "2"],
  ["heats", "Heats", "2"],
];
const CHOICES = {
  score: [
    "rounds",
    "time",
    "total reps",
    "lowest interval",
    "load",
    "step",
    "put-downs",
    "distance",
    "calories",
    "done",
  ],
  pace: ["steady", "hard"],
  team_how: ["alternate", "share", "together"],
  purpose: ["power", "strength", "skill", "hard engine", "easy engine", "grunt", "same pattern"],
} as const;
const CHOICE_LABELS = {
  score: "Score",
  pace: "Pace",
  team_how: "Partners",
  purpose: "Purpose",
} as const;
const TICKS = [
  ["build", "Build to a heavy set"],
  ["for_quality", "For quality, no score"],
  ["until_missed", "Until missed"],
  ["tie_break", "Tie-break by split"],
] as const;

/** The form; which fields a format has and which rules go with it, the server says. */
function Body({
  initial,
  roles,
  kinds,
  onDone,
}: {
  initial: Form;
  roles: string[];
  kinds: Kind[];
  onDone: (text: string) => void;
}) {
  const [form, setForm] = useState(initial);
  const [problem, setProblem] = useState("");
  const [every, setEvery] = useState(false);
  const kind = kinds.find((one) => one.kind === form.format);
  // What is already said is shown in any case.
  const goes = (rule: Rule) =>
    every || Boolean(initial[rule] || form[rule]) || Boolean(kind?.rules.includes(rule));
  const hidden = kinds.flatMap((one) => one.rules).some((rule) => !goes(rule));
  const text = ([field, label, placeholder]: [Field, string, string]) => (
    <TextInput
      key={field}
      label={label}
      placeholder={placeholder}
      value={form[field]}
      onChange={(event) => setForm({ ...form, [field]: event.currentTarget.value })}
    />
  );
  const write = useWrite((body: Form) => ask(api.POST("/api/headings/write", { body })), {
    onDone: (line) => onDone(line.text),
    onRefused: (refusal) => setProblem(refusal.message),
  });
  const send = (event: FormEvent) => {
    event.preventDefault();
    // What another way of timing left behind is not meant.
    const cleared = { count: "", length: "", off: "", scheme: "" };
    const body: Form = { ...form, ...cleared };
    for (const { field } of kind?.fields ?? []) body[field] = form[field];
    write.mutate(body);
  };
  return (
    <form onSubmit={send} className="stack">
      <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
        <legend>The piece</legend>
        <Select
          label="Role"
          value={form.role}
          allowDeselect={false}
          data={roles.map((role) => ({ value: role.toLowerCase(), label: role }))}
          onChange={(role) => role && setForm({ ...form, role: role as Form["role"] })}
        />
        {text(["name", "Name", "Slack Water"])}
        <Select
          label="How it is timed"
          value={form.format}
          allowDeselect={false}
          data={kinds.map((one) => ({ value: one.kind, label: one.label }))}
          onChange={(format) => format && setForm({ ...form, format: format as Form["format"] })}
        />
        {kind?.fields.map(({ field, label, example }) => text([field, label, example]))}
      </fieldset>
      <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
        <legend>Also</legend>
        {MORE.filter(([field]) => goes(field)).map(text)}
        {(Object.keys(CHOICES) as (keyof typeof CHOICES)[])
          .filter((field) => field === "purpose" || goes(field))
          .map((field) => (
            <Select
              key={field}
              label={CHOICE_LABELS[field]}
              clearable
              placeholder="not said"
              value={form[field] ?? null}
              data={[...CHOICES[field]]}
              onChange={(value) => setForm({ ...form, [field]: value })}
            />
          ))}
        {TICKS.filter(([field]) => goes(field)).map(([field, label]) => (
          <Checkbox
            key={field}
            label={label}
            checked={form[field]}
            onChange={(event) => setForm({ ...form, [field]: event.currentTarget.checked })}
          />
        ))}
      </fieldset>
      {hidden && (
        <div>
          <Button size="compact-sm" variant="subtle" onClick={() => setEvery(true)}>
            All rules
          </Button>
        </div>
      )}
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      <Button type="submit">Write this heading</Button>
    </form>
  );
}

export function HeadingForm({
  text,
  roles,
  onDone,
  onClose,
}: {
  text: string;
  roles: string[];
  onDone: (text: string) => void;
  onClose: () => void;
}) {
  const words = useQuery(boardWords);
  const form = useQuery({
    queryKey: ["heading", text],
    queryFn: () => ask(api.POST("/api/headings/read", { body: { text } })),
    gcTime: 0,
    retry: false,
  });
  const error = form.error ?? words.error;
  return (
    <SideForm title="Change this piece" onClose={onClose}>
      {error && <Failed error={error} />}
      {(form.isPending || words.isPending) && <Waiting />}
      {form.data && words.data && (
        <Body initial={form.data} roles={roles} kinds={words.data.kinds} onDone={onDone} />
      )}
    </SideForm>
  );
}
