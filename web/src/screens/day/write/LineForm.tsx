// One line of the board as a small form: one table, a row a tier, only what differs.
import { Autocomplete, Button, Checkbox, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writes";
import fieldStyles from "../../../ui/fields.module.css";
import { Failed, Waiting } from "../../../ui/states";
import wordStyles from "../../../ui/words.module.css";
import styles from "./LineForm.module.css";
import { SideForm } from "./SideForm";
import { differences, inFull, type Said, versionsOf } from "./tiers";

type Form = Schemas["LineForm"];

/** One task, a row a tier; what a lower tier leaves empty is as above. */
function Tiers({
  said,
  words,
  onChange,
}: {
  said: readonly Said[];
  words: Words;
  onChange: (said: Said[]) => void;
}) {
  const full = inFull(said);
  const [more, setMore] = useState(said.some((row) => row.instead || row.note));
  const set = (tier: number, field: keyof Said, text: string) =>
    onChange(said.map((row, at) => (at === tier ? { ...row, [field]: text } : row)));
  const field = (tier: number, name: keyof Said) => ({
    value: said[tier]?.[name] ?? "",
    // What stands above is what is done: shown, and not to be typed again.
    placeholder: tier > 0 ? full[tier]?.[name] : undefined,
  });
  const text = (tier: number, name: keyof Said, label: string) => (
    <td>
      <TextInput
        aria-label={label}
        {...field(tier, name)}
        onChange={(event) => set(tier, name, event.currentTarget.value)}
      />
    </td>
  );
  const offered = (
    tier: number,
    name: keyof Said,
    label: string,
    data: string[],
    limit: number,
  ) => (
    <td>
      <Autocomplete
        aria-label={label}
        {...field(tier, name)}
        data={data}
        limit={limit}
        onChange={(typed) => set(tier, name, typed)}
      />
    </td>
  );
  return (
    <>
      <table className={styles.tiers}>
        <thead>
          <tr>
            <th>Tier</th>
            <th>Amount</th>
            <th>Movement</th>
            <th>Load</th>
            <th>Detail</th>
          </tr>
        </thead>
        <tbody>
          {said.map((_, tier) => (
            // Tiers have no name but their place.
            <tr key={tier}>
              <th scope="row">{words.tiers[tier] ?? `Tier ${tier + 1}`}</th>
              {text(tier, "amount", "Amount")}
              {offered(tier, "movement", "Movement", words.movements, 12)}
              {offered(tier, "load", "Load", words.loads, 8)}
              {text(tier, "detail", "Detail")}
            </tr>
          ))}
        </tbody>
      </table>
      {more ? (
        <table className={styles.tiers}>
          <thead>
            <tr>
              <th>Tier</th>
              <th>Or, for missing kit</th>
              <th>Note</th>
            </tr>
          </thead>
          <tbody>
            {said.map((_, tier) => (
              <tr key={tier}>
                <th scope="row">{words.tiers[tier] ?? `Tier ${tier + 1}`}</th>
                {text(tier, "instead", "Or, for missing kit")}
                {text(tier, "note", "Note")}
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <div>
          <Button variant="subtle" size="compact-sm" onClick={() => setMore(true)}>
            For missing kit, notes
          </Button>
        </div>
      )}
    </>
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
  const blank = () => differences([], words.tiers.length);
  const [prefix, setPrefix] = useState(initial.prefix ?? "");
  const [tasks, setTasks] = useState(() =>
    initial.tasks.map((versions) => differences(versions, words.tiers.length)),
  );
  const [station, setStation] = useState(false);
  const [problem, setProblem] = useState("");
  const rest = tasks.length === 0;
  const write = useWrite(
    (body: Schemas["LineForm"]) => ask(api.POST("/api/lines/write", { body })),
    {
      onDone: (line) => onDone(line.text, station),
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    write.mutate({ prefix, tasks: tasks.map(versionsOf) });
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
              value={prefix}
              allowDeselect={false}
              data={[
                { value: "", label: "In the rounds" },
                { value: "buy-in:", label: "Once before: buy-in" },
                { value: "cash-out:", label: "Once after: cash-out" },
              ]}
              onChange={(where) => setPrefix(where ?? "")}
            />
          </>
        )}
        <Checkbox
          label="Rest here"
          checked={rest}
          onChange={(event) => setTasks(event.currentTarget.checked ? [] : [blank()])}
        />
      </div>
      {tasks.map((said, task) => (
        // Tasks of a line have no name but their place.
        <div key={task} className="stack">
          {task > 0 && <p className={fieldStyles.lineThen}>then, at the same station</p>}
          <Tiers
            said={said}
            words={words}
            onChange={(next) => setTasks((all) => all.with(task, next))}
          />
        </div>
      ))}
      {!rest && (
        <p className={fieldStyles.lineThen}>
          10, 30 s, 400 m, max · 24/16 kg, 70% · each side, tempo 40X0. What a tier leaves empty is
          as above; “none” takes a load or a detail away.
        </p>
      )}
      {!rest && (
        <Button
          variant="default"
          size="compact-sm"
          onClick={() => setTasks((all) => [...all, blank()])}
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
  const initial = fresh ? { prefix: "", tasks: [[]] } : rest ? { prefix, tasks: [] } : form.data;
  return (
    <SideForm title={fresh ? "Add a line" : "Change this line"} onClose={onClose}>
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
    </SideForm>
  );
}
