// One line of one athlete: what it is and why, and what a coach may choose instead.
import { Button, Drawer, NativeSelect, TextInput, VisuallyHidden } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { signs } from "../../../api/figures";
import { keys } from "../../../api/keys";
import { choices as choicesQuery } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { Sign } from "../../../training/MovementDetail";
import fieldStyles from "../../../ui/fields.module.css";
import { Waiting } from "../../../ui/states";
import styles from "./AthleteLine.module.css";

type Version = Schemas["Version"];
type Row = Schemas["Row"];
type Choice = Schemas["Choice"];

/** Which line of the sheet, and of which piece. */
export interface Place {
  date: string;
  piece: string;
  task: number;
  movement: string;
}

const NOTE = " — ";

/** What is on the bar; a bell or a dumbbell says its load by itself. */
const plates = (load: string, loading: string) => (loading.startsWith(load) ? "" : loading);
const unloaded = (text: string) => text.split(" @ ")[0];

/** What a cell shows: the load alone where all else is the tier's, else the athlete's own words. */
function Shown({ version, tier }: { version: Version; tier: string }) {
  const load = version.load ?? "";
  const same = load !== "" && unloaded(version.text) === unloaded(tier);
  const loading = plates(load || "-", version.loading ?? "");
  return (
    <span aria-hidden>
      {same ? <b className="num">{load}</b> : version.own && version.text}
      {loading && <small> {loading}</small>}
      {version.overridden && <small className={styles.set}> coach’s choice</small>}
    </span>
  );
}

/** The loads the gym makes below and above, a step at a time. */
function Loads({
  choices,
  at,
  onPick,
}: {
  choices: readonly Choice[];
  at: number;
  onPick: (choice: Choice) => void;
}) {
  const [less, more] = [choices[at - 1], choices[at + 1]];
  const load = choices[at]?.text.split(NOTE)[0]?.split("@ ")[1] ?? "";
  return (
    <fieldset className={styles.loads}>
      <VisuallyHidden component="legend">Load</VisuallyHidden>
      <Button
        size="compact-md"
        variant="default"
        disabled={!less}
        aria-label="Lighter"
        onClick={() => less && onPick(less)}
      >
        −
      </Button>
      <span className="num" aria-live="polite">
        <b>{load}</b> <small>{plates(load, choices[at]?.loading ?? "")}</small>
      </span>
      <Button
        size="compact-md"
        variant="default"
        disabled={!more}
        aria-label="Heavier"
        onClick={() => more && onPick(more)}
      >
        +
      </Button>
    </fieldset>
  );
}

function Chips({
  label,
  choices,
  text,
  onPick,
}: {
  label: string;
  choices: readonly Choice[];
  text: string;
  onPick: (choice: Choice) => void;
}) {
  const found = useQuery(signs(choices.map((choice) => choice.movement)));
  if (choices.length === 0) return null;
  return (
    <fieldset className={styles.chips}>
      <legend>{label}</legend>
      {choices.map((choice) => {
        const sign = found.data?.find((each) => each.movement === choice.movement);
        return (
          <button
            key={choice.text}
            type="button"
            aria-pressed={choice.text === text}
            onClick={() => onPick(choice)}
          >
            <span className={styles.sign} aria-hidden>
              {sign && <Sign sign={sign} />}
            </span>
            <span>
              {choice.text}
              <small> {choice.why}</small>
            </span>
          </button>
        );
      })}
    </fieldset>
  );
}

/** Their usual tier and track, which the whole sheet follows. */
function Usual({ row, gym }: { row: Row; gym: Schemas["GymOut"] }) {
  const change = useWrite(
    (own: { tier?: number; track?: number }) =>
      ask(
        api.PATCH("/api/athletes/{athlete_id}", {
          params: { path: { athlete_id: row.id } },
          body: own,
        }),
      ),
    {
      touches: () => [keys.days, keys.athletes],
      said: (own) =>
        `${row.name} trains as ${own.tier === undefined ? gym.tracks[own.track ?? 0] : gym.tiers[own.tier]} from now on.`,
    },
  );
  const named = (names: readonly string[]) =>
    names.map((label, place) => ({ value: String(place), label }));
  return (
    <div className={styles.usual}>
      <NativeSelect
        size="xs"
        label="Usual tier"
        value={String(row.tier)}
        data={named(gym.tiers)}
        onChange={(event) => change.mutate({ tier: Number(event.currentTarget.value) })}
      />
      <NativeSelect
        size="xs"
        label="Track"
        value={String(row.track)}
        data={named(gym.tracks)}
        onChange={(event) => change.mutate({ track: Number(event.currentTarget.value) })}
      />
    </div>
  );
}

function Form({
  row,
  version,
  place,
  gym,
  onDone,
}: {
  row: Row;
  version: Version;
  place: Place;
  gym: Schemas["GymOut"];
  onDone: () => void;
}) {
  const client = useQueryClient();
  const found = useQuery(choicesQuery(place.date, place.piece, row.id, place.task));
  const [before = "", noted = ""] = version.text.split(NOTE);
  const [text, setText] = useState(before);
  const [note, setNote] = useState(noted);
  const [problem, setProblem] = useState("");
  const send = useWrite(
    (own: string) =>
      ask(
        api.PUT("/api/athletes/{athlete_id}/override", {
          params: { path: { athlete_id: row.id } },
          body: { movement: place.movement, text: own },
        }),
      ),
    {
      onDone: () => {
        onDone();
        client.invalidateQueries({ queryKey: keys.days });
      },
      onRefused: (refusal) => setProblem(refusal.message),
      said: (own) =>
        own ? `${row.name}: ${own}, remembered.` : `${row.name}: as recommended again.`,
    },
  );
  const pick = (choice: Choice) => {
    setText(choice.text.split(NOTE)[0] ?? "");
    setProblem("");
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(note.trim() ? `${text}${NOTE}${note.trim()}` : text);
  };
  // All at once: what grows under a finger is pressed wrong.
  if (found.isPending) return <Waiting what="What they could do" />;
  const { loads = [], at = 0, rungs = [], swaps = [] } = found.data ?? {};
  const now = loads.findIndex((one) => one.text.split(NOTE)[0] === text);
  return (
    <form onSubmit={submit} className="stack">
      <p className={styles.reason}>
        {version.reason || "The tier’s version: nothing noted speaks against it."}
      </p>
      {loads.length > 1 && <Loads choices={loads} at={now < 0 ? at : now} onPick={pick} />}
      <Chips label="Rungs" choices={rungs} text={text} onPick={pick} />
      <Chips label="Instead" choices={swaps} text={text} onPick={pick} />
      <TextInput
        label={`${row.name} does`}
        value={text}
        data-autofocus
        onChange={(event) => setText(event.currentTarget.value)}
        error={problem}
      />
      <TextInput
        label="Note for them"
        value={note}
        onChange={(event) => setNote(event.currentTarget.value)}
      />
      <div className={fieldStyles.lineTools}>
        <Button type="submit" size="compact-md" loading={send.isPending}>
          Set and remember
        </Button>
        {version.overridden && (
          <Button size="compact-md" variant="default" onClick={() => send.mutate("")}>
            Back to the recommendation
          </Button>
        )}
      </div>
      <Usual row={row} gym={gym} />
    </form>
  );
}

/** One line of one athlete on the sheet; a press opens what may be chosen. */
export function AthleteLine({
  row,
  version,
  tier,
  open,
  onOpen,
}: {
  row: Row;
  version: Version;
  /** The tier's own words for this line. */
  tier: string;
  open: boolean;
  onOpen: () => void;
}) {
  return (
    <button
      type="button"
      className={styles.cell}
      data-own={version.own || undefined}
      data-agree={version.agree || undefined}
      aria-haspopup="dialog"
      aria-expanded={open}
      title={version.reason || version.text}
      onClick={onOpen}
    >
      <VisuallyHidden>
        {row.name}: {version.text} {version.overridden && "coach’s choice"}
      </VisuallyHidden>
      <Shown version={version} tier={tier} />
    </button>
  );
}

/** Beside the sheet, which stays in view: what one athlete does of a line, and what else. */
export function Chosen({
  row,
  place,
  gym,
  onClose,
}: {
  row: Row | undefined;
  place: Place;
  gym: Schemas["GymOut"];
  onClose: () => void;
}) {
  const version = row?.versions[place.task];
  return (
    <Drawer
      opened={version !== undefined}
      onClose={onClose}
      position="right"
      size={440}
      withOverlay={false}
      lockScroll={false}
      title={row && `${row.name} · ${place.movement || "complex"}`}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      {row && version && (
        <Form
          key={`${row.id}/${place.task}/${version.text}`}
          row={row}
          version={version}
          place={place}
          gym={gym}
          onDone={onClose}
        />
      )}
    </Drawer>
  );
}
