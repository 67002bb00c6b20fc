// The heading of a piece as a form: role, name, how it is timed, and what else is said of it.
import { Button, Checkbox, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writes";
import fieldStyles from "../../../ui/fields.module.css";
import { Failed, Waiting } from "../../../ui/states";
import wordStyles from "../../../ui/words.module.css";
import { SideForm } from "./SideForm";

type Form = Schemas["HeadingForm"];
type Rule = "rest" | "cap" | "target" | "work" | "aim" | "team_size" | "heats" | "each_round";
type Field = "name" | "count" | "length" | "off" | "scheme" | Rule;

const KINDS: { value: Form["format"]; label: string }[] = [
  { value: "rounds", label: "rounds for quality" },
  { value: "sets", label: "sets" },
  { value: "amrap", label: "AMRAP" },
  { value: "every", label: "every interval" },
  { value: "emom", label: "EMOM" },
  { value: "intervals", label: "work and rest intervals" },
  { value: "tabata", label: "Tabata" },
  { value: "for_time", label: "for time" },
  { value: "accumulate", label: "accumulate" },
  { value: "continuous", label: "continuous" },
  { value: "rest", label: "rest" },
];
const NEEDS: Record<Form["format"], [Field, string, string][]> = {
  rounds: [["count", "Rounds", "3 or 3-5"]],
  sets: [["count", "Sets", "4 or 4-5"]],
  amrap: [["length", "Length", "12:00"]],
  every: [
    ["length", "Every", "2:00"],
    ["count", "Rounds", "6, or empty until missed"],
  ],
  emom: [["length", "Length", "12:00"]],
  intervals: [
    ["length", "Work", "0:40"],
    ["off", "Rest", "0:20"],
    ["count", "Rounds", "4"],
  ],
  tabata: [],
  for_time: [
    ["count", "Rounds", "3"],
    ["scheme", "Or a scheme", "10-8-6-4-2"],
  ],
  accumulate: [],
  continuous: [["length", "Length", "10:00"]],
  rest: [["length", "Length", "2:00"]],
};
const MORE: [Rule, string, string][] = [
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
} as const;
const CHOICE_LABELS = { score: "Score", pace: "Pace", team_how: "Partners" } as const;
const TICKS = [
  ["build", "Build to a heavy set"],
  ["for_quality", "For quality, no score"],
  ["until_missed", "Until missed"],
  ["tie_break", "Tie-break by split"],
] as const;

type Also = (typeof MORE)[number][0] | keyof typeof CHOICES | (typeof TICKS)[number][0];

/** Which rules go with which way of timing; what is already said is shown in any case. */
const FITS: Record<Also, readonly Form["format"][]> = {
  rest: ["rounds", "sets", "amrap", "every", "emom", "intervals", "tabata", "for_time"],
  cap: ["rounds", "for_time", "accumulate"],
  target: ["rounds", "amrap", "every", "emom", "intervals", "for_time", "accumulate"],
  aim: ["every", "emom"],
  work: ["every", "emom"],
  each_round: ["rounds", "sets", "amrap", "every", "for_time"],
  team_size: ["rounds", "amrap", "every", "emom", "intervals", "for_time", "accumulate"],
  team_how: ["rounds", "amrap", "every", "emom", "intervals", "for_time", "accumulate"],
  heats: ["rounds", "amrap", "every", "emom", "intervals", "for_time"],
  score: ["rounds", "sets", "amrap", "every", "emom", "intervals", "tabata", "for_time"],
  pace: ["continuous", "intervals", "every"],
  build: ["rounds", "sets", "every"],
  for_quality: ["rounds", "sets", "amrap", "every", "emom"],
  until_missed: ["every"],
  tie_break: ["amrap", "for_time"],
};

function Body({
  initial,
  roles,
  onDone,
}: {
  initial: Form;
  roles: string[];
  onDone: (text: string) => void;
}) {
  const [form, setForm] = useState(initial);
  const [problem, setProblem] = useState("");
  const [every, setEvery] = useState(false);
  const goes = (field: Also) =>
    every || Boolean(initial[field] || form[field]) || FITS[field].includes(form.format);
  const hidden = (Object.keys(FITS) as Also[]).some((field) => !goes(field));
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
    const used = NEEDS[form.format].map(([field]) => field);
    const cleared = { count: "", length: "", off: "", scheme: "" };
    const body: Form = { ...form, ...cleared };
    for (const field of used) Object.assign(body, { [field]: form[field] });
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
          data={KINDS}
          onChange={(format) => format && setForm({ ...form, format: format as Form["format"] })}
        />
        {NEEDS[form.format].map(text)}
      </fieldset>
      <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
        <legend>Also</legend>
        {MORE.filter(([field]) => goes(field)).map(text)}
        {(Object.keys(CHOICES) as (keyof typeof CHOICES)[]).filter(goes).map((field) => (
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
  const form = useQuery({
    queryKey: ["heading", text],
    queryFn: () => ask(api.POST("/api/headings/read", { body: { text } })),
    gcTime: 0,
    retry: false,
  });
  return (
    <SideForm title="Change this piece" onClose={onClose}>
      {form.error && <Failed error={form.error} />}
      {form.isPending && <Waiting />}
      {form.data && <Body initial={form.data} roles={roles} onDone={onDone} />}
    </SideForm>
  );
}
