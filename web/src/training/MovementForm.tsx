// A movement of the gym's own: named, and the rest taken from one like it.
import {
  Autocomplete,
  Button,
  Modal,
  MultiSelect,
  NumberInput,
  Select,
  TagsInput,
  Textarea,
  TextInput,
} from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { boardWords, movements } from "../api/queries";
import { useWrite } from "../api/writes";
import fieldStyles from "../ui/fields.module.css";
import wordStyles from "../ui/words.module.css";
import { AnotherWord } from "./AnotherWord";

type Movement = Schemas["Movement"];

const NEW: Movement = {
  name: "",
  aliases: [],
  patterns: [],
  muscles: "",
  kit: [],
  measure: "reps",
  sides: "both",
  standard: "",
  cues: [],
  faults: [],
  cautions: [],
  seconds: 2,
  floor_s: 1,
  demand: 0.5,
  landings: 0,
  parent: null,
  reference_kg: null,
  in_a_row: null,
  skill: null,
  tires: [],
  implements: 1,
  looks_like: null,
};

const lines = (text: string) =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);

/** What a new movement takes over from one it is much like: its figure as well. */
const as = (it: Movement): Movement => ({ ...it, looks_like: it.looks_like ?? it.name });

export function MovementForm({
  initial,
  fixedName = false,
  onDone,
  onClose,
}: {
  initial: Partial<Movement>;
  fixedName?: boolean;
  onDone: (name: string) => void;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const begins = !fixedName && Boolean(initial.name) && !initial.seconds;
  const [form, setForm] = useState<Movement>({ ...NEW, ...initial });
  const [like, setLike] = useState("");
  const [above, setAbove] = useState("");
  const [problem, setProblem] = useState("");
  const words = useQuery(boardWords);
  const all = useQuery(movements({}));
  const names = words.data?.movements.map((movement) => movement.name) ?? [];
  const untouched = useRef(true);
  const set = (change: Partial<Movement>) => {
    untouched.current = false;
    setForm((before) => ({ ...before, ...change }));
  };

  const copy = async (name: string) => {
    untouched.current = false;
    setLike(name);
    if (!names.includes(name)) return;
    const page = await ask(api.GET("/api/movements/{name}", { params: { path: { name } } }));
    set({ ...as(page.movement), name: form.name, aliases: [] });
  };
  // A new one begins as the nearest that is known: most of what it needs is there.
  const found = useQuery({ ...movements({ q: initial.name }), enabled: begins });
  const nearest = begins ? found.data?.found[0]?.name : undefined;
  useEffect(() => {
    if (!nearest) return;
    ask(api.GET("/api/movements/{name}", { params: { path: { name: nearest } } })).then(
      (page) => {
        // What the coach has typed or chosen meanwhile stays.
        if (!untouched.current) return;
        setLike(nearest);
        setForm((before) => ({
          ...as(page.movement),
          name: before.name,
          aliases: before.aliases,
        }));
      },
      () => undefined,
    );
  }, [nearest]);
  const write = useWrite(
    (body: Schemas["OwnMovement"]) => ask(api.PUT("/api/movements", { body })),
    {
      onDone: (kept) => {
        client.invalidateQueries();
        onDone(kept.name);
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    write.mutate({ movement: form, above: above || null });
  };
  const words_ = (field: "cues" | "faults" | "cautions", label: string) => (
    <Textarea
      label={label}
      description="one a line"
      autosize
      minRows={2}
      value={form[field].join("\n")}
      onChange={(event) => set({ [field]: event.currentTarget.value.split("\n") })}
      onBlur={(event) => set({ [field]: lines(event.currentTarget.value) })}
    />
  );
  const number = (field: "seconds" | "floor_s" | "demand" | "landings", label: string) => (
    <NumberInput
      label={label}
      value={form[field]}
      min={0}
      step={0.1}
      onChange={(value) => typeof value === "number" && set({ [field]: value })}
    />
  );
  return (
    <Modal
      opened
      onClose={onClose}
      size="lg"
      title={fixedName ? `The gym's ${form.name}` : "Add a movement"}
    >
      {!fixedName && initial.name && (
        <AnotherWord word={initial.name} names={names} onDone={onDone} />
      )}
      <form onSubmit={send} className="stack">
        <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
          <legend>What it is</legend>
          <TextInput
            label="Name"
            required
            disabled={fixedName}
            value={form.name}
            onChange={(event) => set({ name: event.currentTarget.value })}
          />
          {!fixedName && (
            <Autocomplete
              label="Based on"
              description="copies pattern, kit, pace, words and figure"
              value={like}
              data={names}
              limit={10}
              onChange={copy}
            />
          )}
          <TagsInput
            label="Also called"
            value={form.aliases}
            onChange={(aliases) => set({ aliases })}
          />
          <MultiSelect
            label="Patterns"
            description="the main one first"
            value={form.patterns}
            data={all.data?.patterns ?? []}
            onChange={(patterns) => set({ patterns: patterns as Movement["patterns"] })}
          />
          <TagsInput
            label="Kit"
            value={form.kit}
            data={all.data?.kit ?? []}
            onChange={(kit) => set({ kit })}
          />
          <Autocomplete
            label="On the ladder above"
            description="the rung it stands on"
            value={above}
            data={names}
            limit={10}
            onChange={setAbove}
          />
          <Select
            label="Counted in"
            value={form.measure}
            allowDeselect={false}
            data={["reps", "time", "distance"]}
            onChange={(measure) => set({ measure: measure as Movement["measure"] })}
          />
          <Select
            label="Sides"
            value={form.sides}
            allowDeselect={false}
            data={[
              { value: "both", label: "both at once" },
              { value: "alternating", label: "one after the other" },
            ]}
            onChange={(sides) => set({ sides: sides as Movement["sides"] })}
          />
        </fieldset>
        <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
          <legend>What counts and what to watch</legend>
          <TextInput
            label="Standard"
            placeholder="Counts when…"
            value={form.standard}
            onChange={(event) => set({ standard: event.currentTarget.value })}
          />
          <TextInput
            label="Muscles"
            value={form.muscles}
            onChange={(event) => set({ muscles: event.currentTarget.value })}
          />
          {words_("cues", "Say")}
          {words_("faults", "Faults")}
          {words_("cautions", "Cautions")}
        </fieldset>
        <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
          <legend>Pace</legend>
          {number("seconds", "Seconds a rep, fresh")}
          {number("floor_s", "Fastest honest rep")}
          {number("demand", "How hard it tires, 0 to 1")}
          {number("landings", "Landings a rep")}
          <NumberInput
            label="Max unbroken, fresh"
            placeholder="as its effort says"
            data-holds
            value={form.in_a_row ?? ""}
            min={0.1}
            step={1}
            onChange={(value) => set({ in_a_row: typeof value === "number" ? value : null })}
          />
        </fieldset>
        {problem && (
          <p role="alert" className={wordStyles.cellWords} data-state="refused">
            {problem}
          </p>
        )}
        <Button type="submit">Save</Button>
      </form>
    </Modal>
  );
}
