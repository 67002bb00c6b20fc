// One line of the board as a small form: movement, amount, load, side, tempo, tier by tier.
import { Autocomplete, Button, Modal, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { Failed, Waiting } from "../../parts/states";

type Form = Schemas["LineForm"];
type Version = Schemas["VersionForm"];

const SIDES = ["each side", "alternating", "left", "right"] as const;

function Fields({
  version,
  title,
  movements,
  onChange,
  onRemove,
}: {
  version: Version;
  title: string;
  movements: string[];
  onChange: (version: Version) => void;
  onRemove?: () => void;
}) {
  const text = (field: keyof Version, label: string, placeholder: string) => (
    <TextInput
      label={label}
      placeholder={placeholder}
      value={(version[field] as string | undefined) ?? ""}
      onChange={(event) => onChange({ ...version, [field]: event.currentTarget.value })}
    />
  );
  return (
    <fieldset className="line-fields">
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
      {text("load", "Load", "24/16 kg, 70%")}
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

function Body({
  initial,
  tiers,
  movements,
  onDone,
}: {
  initial: Form;
  tiers: readonly string[];
  movements: string[];
  onDone: (text: string) => void;
}) {
  const [form, setForm] = useState(initial);
  const [problem, setProblem] = useState("");
  const change = (task: number, change: (versions: Version[]) => Version[]) =>
    setForm({
      ...form,
      tasks: form.tasks.map((versions, at) => (at === task ? change([...versions]) : versions)),
    });
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      onDone((await ask(api.POST("/api/lines/write", { body: form }))).text);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <form onSubmit={send} className="stack">
      {form.tasks.map((versions, task) => (
        // Tasks and their tiers have no name but their place.
        <div key={task} className="stack">
          {versions.map((version, tier) => (
            <Fields
              key={tier}
              version={version}
              title={tiers[tier] ?? `Tier ${tier + 1}`}
              movements={movements}
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
      {problem && (
        <p role="alert" className="cell-words" data-state="refused">
          {problem}
        </p>
      )}
      <Button type="submit">Write this line</Button>
    </form>
  );
}

export function LineForm({
  text,
  tiers,
  movements,
  onDone,
  onClose,
}: {
  text: string;
  tiers: readonly string[];
  movements: string[];
  onDone: (text: string) => void;
  onClose: () => void;
}) {
  const form = useQuery({
    queryKey: ["line", text],
    queryFn: () => ask(api.POST("/api/lines/read", { body: { text } })),
    gcTime: 0,
    retry: false,
  });
  return (
    <Modal opened onClose={onClose} title="Change this line" size="lg">
      {form.error && <Failed error={form.error} />}
      {form.isPending && <Waiting />}
      {form.data && (
        <Body initial={form.data} tiers={tiers} movements={movements} onDone={onDone} />
      )}
    </Modal>
  );
}
