// One line of the board as a small form: movement, amount, load, side, tempo, tier by tier.
import { Autocomplete, Button, Checkbox, Modal, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writes";
import fieldStyles from "../../../ui/fields.module.css";
import { Failed, Waiting } from "../../../ui/states";
import wordStyles from "../../../ui/words.module.css";

type Form = Schemas["LineForm"];
type Version = Schemas["VersionForm"];

const SIDES = ["each side", "alternating", "left", "right"] as const;
const BLANK: Version = {
  amount: "",
  movement: "",
  side: null,
  tempo: "",
  details: "",
  load: "",
  instead: "",
  note: "",
};

function Fields({
  version,
  title,
  movements,
  loads,
  onChange,
  onRemove,
}: {
  version: Version;
  title: string;
  movements: string[];
  loads: string[];
  onChange: (version: Version) => void;
  onRemove?: () => void;
}) {
  const text = (field: keyof Version, label: string, placeholder: string) => (
    <TextInput
      label={label}
      placeholder={placeholder}
      value={(version[field] ?? "") as string}
      onChange={(event) => onChange({ ...version, [field]: event.currentTarget.value })}
    />
  );
  return (
    <fieldset className={fieldStyles.lineFields}>
      <legend>
        {title}
        {onRemove && (
          <Button size="compact-sm" variant="subtle" onClick={onRemove}>
            Remove
          </Button>
        )}
      </legend>
      {text("amount", "Amount", "10, 30 s, 400 m, max")}
      <Autocomplete
        label="Movement"
        value={version.movement}
        data={movements}
        limit={12}
        onChange={(movement) => onChange({ ...version, movement })}
      />
      <Autocomplete
        label="Load"
        placeholder="24/16 kg, 70%"
        value={version.load}
        data={loads}
        limit={8}
        onChange={(load) => onChange({ ...version, load })}
      />
      <Select
        label="Side"
        placeholder="both"
        clearable
        value={version.side ?? null}
        data={[...SIDES]}
        onChange={(side) => onChange({ ...version, side: side as Version["side"] })}
      />
      {text("tempo", "Tempo", "40X0")}
      {text("details", "Other details", "pause 2 s, unbroken")}
      {text("instead", "Or, for missing kit", "10 towel row")}
      {text("note", "Note", "")}
    </fieldset>
  );
}

type Words = { tiers: readonly string[]; movements: string[]; loads: string[] };

function Body({
  initial,
  words,
  fresh,
  onDone,
}: {
  initial: Form;
  words: Words;
  fresh: boolean;
  onDone: (text: string, station: boolean) => void;
}) {
  const { tiers, movements, loads } = words;
  const [form, setForm] = useState(initial);
  const [station, setStation] = useState(false);
  const [problem, setProblem] = useState("");
  const rest = form.tasks.length === 0;
  const change = (task: number, change: (versions: Version[]) => Version[]) =>
    setForm({
      ...form,
      tasks: form.tasks.map((versions, at) => (at === task ? change([...versions]) : versions)),
    });
  const write = useWrite(
    (body: Schemas["LineForm"]) => ask(api.POST("/api/lines/write", { body })),
    {
      onDone: (line) => onDone(line.text, station),
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    write.mutate(form);
  };
  return (
    <form onSubmit={send} className="stack">
      <div className={fieldStyles.lineKind}>
        {fresh && (
          <>
            <Checkbox
              label="A station of its own"
              checked={station}
              onChange={(event) => setStation(event.currentTarget.checked)}
            />
            <Select
              aria-label="Where it stands"
              value={form.prefix}
              allowDeselect={false}
              data={[
                { value: "", label: "In the rounds" },
                { value: "buy-in:", label: "Once before: buy-in" },
                { value: "cash-out:", label: "Once after: cash-out" },
              ]}
              onChange={(prefix) => setForm({ ...form, prefix: prefix ?? "" })}
            />
          </>
        )}
        <Checkbox
          label="Rest here"
          checked={rest}
          onChange={(event) =>
            setForm({ ...form, tasks: event.currentTarget.checked ? [] : [[BLANK]] })
          }
        />
      </div>
      {form.tasks.map((versions, task) => (
        // Tasks and their tiers have no name but their place.
        <div key={task} className="stack">
          {task > 0 && <p className={fieldStyles.lineThen}>then, at the same station</p>}
          {versions.map((version, tier) => (
            <Fields
              key={tier}
              version={version}
              title={tiers[tier] ?? `Tier ${tier + 1}`}
              movements={movements}
              loads={loads}
              onChange={(next) => change(task, (all) => all.with(tier, next))}
              onRemove={
                tier > 0 && tier === versions.length - 1
                  ? () => change(task, (all) => all.slice(0, -1))
                  : undefined
              }
            />
          ))}
          {versions.length < tiers.length && (
            <Button
              variant="default"
              size="compact-sm"
              onClick={() =>
                change(task, (all) => [...all, { ...(all.at(-1) as Version), note: "" }])
              }
            >
              Add {tiers[versions.length]}
            </Button>
          )}
        </div>
      ))}
      {!rest && (
        <Button
          variant="default"
          size="compact-sm"
          onClick={() => setForm({ ...form, tasks: [...form.tasks, [BLANK]] })}
        >
          Add a task to this line
        </Button>
      )}
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      <Button type="submit">{fresh ? "Add this line" : "Write this line"}</Button>
    </form>
  );
}

/** A line of the board in a form; without a text, a new line for its piece. */
export function LineForm({
  text,
  words,
  onDone,
  onMove,
  onRemove,
  onClose,
}: {
  text: string | null;
  words: Words;
  onDone: (text: string, station: boolean) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
  onClose: () => void;
}) {
  const fresh = text === null;
  const rest = text !== null && /^\s*(\d+\)\s*)?rest\s*$/i.test(text);
  const form = useQuery({
    queryKey: ["line", text],
    queryFn: () => ask(api.POST("/api/lines/read", { body: { text: text ?? "" } })),
    gcTime: 0,
    retry: false,
    enabled: !fresh && !rest,
  });
  const prefix = /^\s*\d+\)/.exec(text ?? "")?.[0].trim() ?? "";
  const initial = fresh
    ? { prefix: "", tasks: [[BLANK]] }
    : rest
      ? { prefix, tasks: [] }
      : form.data;
  return (
    <Modal opened onClose={onClose} title={fresh ? "Add a line" : "Change this line"} size="lg">
      {!fresh && (
        <div className={fieldStyles.lineTools}>
          <Button size="compact-sm" variant="default" onClick={() => onMove(-1)}>
            Move up
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => onMove(1)}>
            Move down
          </Button>
          <Button size="compact-sm" variant="default" onClick={onRemove}>
            Remove this line
          </Button>
        </div>
      )}
      {form.error && <Failed error={form.error} />}
      {!initial && !form.error && <Waiting />}
      {initial && <Body initial={initial} words={words} fresh={fresh} onDone={onDone} />}
    </Modal>
  );
}
