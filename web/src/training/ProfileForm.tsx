// What is known of an athlete: bests, sets in one go, rungs, limits. For coaches and the athlete.
import {
  Autocomplete,
  Button,
  Checkbox,
  NumberInput,
  Select,
  TagsInput,
  Textarea,
  TextInput,
} from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { boardWords, gym as gymQuery, ladders } from "../api/queries";
import { useWrite } from "../api/writes";
import fieldStyles from "../ui/fields.module.css";
import { SaveBar } from "../ui/SaveBar";
import { useEdited } from "../ui/useEdited";
import { keptWeight, shownWeight, type Weight } from "../ui/weights";

type Profile = Schemas["Profile"];

export const LIMITS = [
  "wrist",
  "shoulder",
  "elbow",
  "low back",
  "hip",
  "knee",
  "ankle",
  "pregnancy",
] as const;

/** Numbers by movement, with a row to add one. */
function Table({
  title,
  unit,
  values,
  names,
  onChange,
}: {
  title: string;
  unit: Weight | "reps or s";
  values: Record<string, number>;
  names: string[];
  onChange: (values: Record<string, number>) => void;
}) {
  const [name, setName] = useState("");
  const [value, setValue] = useState<number | string>("");
  const loaded = unit !== "reps or s";
  const kept = (typed: number) => (loaded ? keptWeight(typed, unit) : typed);
  const add = () => {
    if (!name.trim() || typeof value !== "number") return;
    onChange({ ...values, [name.trim()]: kept(value) });
    setName("");
    setValue("");
  };
  return (
    <fieldset className={fieldStyles.known}>
      <legend>{title}</legend>
      <ul>
        {Object.entries(values).map(([movement, number]) => (
          <li key={movement}>
            <span>{movement}</span>
            <NumberInput
              aria-label={`${title}: ${movement}`}
              size="xs"
              w={96}
              suffix={loaded ? ` ${unit}` : ""}
              value={loaded ? shownWeight(number, unit) : number}
              min={0}
              onChange={(next) =>
                typeof next === "number" && onChange({ ...values, [movement]: kept(next) })
              }
            />
            <Button
              size="compact-sm"
              variant="subtle"
              aria-label={`Remove ${movement}`}
              onClick={() => {
                const { [movement]: _gone, ...rest } = values;
                onChange(rest);
              }}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className={fieldStyles.add}>
        <Autocomplete
          aria-label={`${title}: movement`}
          placeholder="movement"
          size="xs"
          data={names}
          limit={8}
          value={name}
          onChange={setName}
        />
        <NumberInput
          aria-label={`${title}: ${unit}`}
          placeholder={unit}
          size="xs"
          w={96}
          min={0}
          value={value}
          onChange={setValue}
        />
        <Button size="compact-sm" variant="default" onClick={add}>
          Add
        </Button>
      </div>
    </fieldset>
  );
}

/** A set that was lifted, and the maximum behind it by the published formulas. */
/** A best worked out from a set of several reps; loads are typed in the gym's unit, kept in kg. */
export function MaxFromSet({
  names,
  unit,
  onUse,
}: {
  names: string[];
  unit: Weight;
  onUse: (lift: string, kg: number) => void;
}) {
  const [lift, setLift] = useState("");
  const [load, setLoad] = useState<number | string>("");
  const [reps, setReps] = useState<number | string>(5);
  const asked = useWrite((body: Schemas["SetForm"]) => ask(api.POST("/api/one-rep-max", { body })));
  const found = asked.data ?? null;
  const work = () => {
    if (typeof load === "number" && typeof reps === "number") {
      asked.mutate({ kg: keptWeight(load, unit), reps });
    }
  };
  return (
    <fieldset className={fieldStyles.known}>
      <legend>A best from a set</legend>
      <Autocomplete
        aria-label="Lift"
        placeholder="lift"
        size="xs"
        data={names}
        limit={8}
        value={lift}
        onChange={setLift}
      />
      <div className={fieldStyles.add}>
        <NumberInput
          aria-label={`${unit === "kg" ? "Kilograms" : "Pounds"} lifted`}
          placeholder={unit}
          size="xs"
          w={90}
          min={0}
          value={load}
          onChange={setLoad}
        />
        <NumberInput
          aria-label="Reps lifted"
          size="xs"
          w={80}
          min={1}
          max={20}
          prefix="× "
          value={reps}
          onChange={setReps}
        />
        <Button size="compact-sm" variant="default" onClick={work}>
          Estimate
        </Button>
      </div>
      {found && (
        <p>
          About{" "}
          <b className="num">
            {shownWeight(found.middle_kg, unit)} {unit}
          </b>
          ; the formulas lie between <span className="num">{shownWeight(found.low_kg, unit)}</span>{" "}
          and{" "}
          <span className="num">
            {shownWeight(found.high_kg, unit)} {unit}
          </span>
          .{" "}
          <Button
            size="compact-sm"
            variant="default"
            disabled={!names.includes(lift)}
            onClick={() => onUse(lift, found.middle_kg)}
          >
            Take as best
          </Button>
        </p>
      )}
    </fieldset>
  );
}

/** Rungs that are known, and one more to say: not a field for every ladder there is. */
function Rungs({
  ladders: families,
  rungs,
  onChange,
}: {
  ladders: readonly Schemas["Ladder"][];
  rungs: Record<string, string>;
  onChange: (rungs: Record<string, string>) => void;
}) {
  const [more, setMore] = useState<string | null>(null);
  const said = families.filter((ladder) => rungs[ladder.name] || ladder.name === more);
  return (
    <div className={fieldStyles.rungPicks}>
      {said.map((ladder) => (
        <Select
          key={ladder.name}
          label={ladder.name}
          size="xs"
          placeholder="choose a rung"
          clearable
          value={rungs[ladder.name] ?? null}
          data={[...ladder.rungs].reverse()}
          onChange={(rung) => {
            const { [ladder.name]: _gone, ...rest } = rungs;
            onChange(rung ? { ...rest, [ladder.name]: rung } : rest);
          }}
        />
      ))}
      <Select
        label="Other ladder"
        size="xs"
        searchable
        placeholder="pull-up, dip …"
        value={null}
        data={families.filter((ladder) => !rungs[ladder.name]).map((ladder) => ladder.name)}
        onChange={setMore}
      />
    </div>
  );
}

/** A profile to change. What somebody else keeps meanwhile comes in beside what is typed here. */
export function ProfileForm({
  found,
  only,
  onSave,
}: {
  found: Schemas["ProfileOut"];
  /** One half of it: what they can do, or how they wish to be treated. */
  only?: "bests" | "settings";
  onSave: (profile: Profile, version: number) => Promise<Schemas["ProfileOut"]>;
}) {
  const shows = (part: "bests" | "settings") => only === undefined || only === part;
  const [version, setVersion] = useState(found.version);
  const edited = useEdited<Profile>(found.profile);
  const { value: form, set } = edited;
  const [sending, setSending] = useState(false);
  if (found.version > version && !sending) {
    setVersion(found.version);
    edited.takeOthers(
      found.profile,
      "Somebody else saved this profile meanwhile: what you did not touch is as they have it. Look at it, then save it.",
    );
  }
  const words = useQuery(boardWords);
  const families = useQuery(ladders);
  const gymUnit = useQuery(gymQuery).data?.unit;
  const unit = form.unit ?? gymUnit ?? "kg";
  const names = words.data?.movements.map((movement) => movement.name) ?? [];
  const limit = (name: string) => form.limits.find((one) => one.limit === name);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    setSending(true);
    try {
      const done = await onSave(form, version);
      setVersion(done.version);
      edited.takeSaved(form, done.profile);
    } catch (error) {
      edited.refuse((error as Error).message);
    } finally {
      setSending(false);
    }
  };
  const discard = (event: FormEvent) => {
    event.preventDefault();
    edited.discard();
  };
  return (
    <form onSubmit={send} onReset={discard} className={fieldStyles.profile}>
      {shows("bests") && (
        <>
          <div className={fieldStyles.columns}>
            <Table
              title="Bests"
              unit={unit}
              names={names}
              values={form.bests ?? {}}
              onChange={(bests) => set({ bests })}
            />
            <Table
              title="Max unbroken"
              unit="reps or s"
              names={names}
              values={form.longest ?? {}}
              onChange={(longest) => set({ longest })}
            />
            <div>
              <MaxFromSet
                names={names}
                unit={unit}
                onUse={(lift, kg) => set({ bests: { ...form.bests, [lift]: kg } })}
              />
            </div>
          </div>
          <fieldset className={fieldStyles.known}>
            <legend>Hardest variation they can do</legend>
            <Rungs
              ladders={families.data ?? []}
              rungs={form.rungs ?? {}}
              onChange={(rungs) => set({ rungs })}
            />
          </fieldset>
        </>
      )}
      {shows("settings") && (
        <>
          <fieldset className={fieldStyles.known}>
            <legend>Limits</legend>
            <p>
              Seen by coaches and the athlete alone. They never diagnose: pain, pregnancy and
              illness belong to a licensed clinician.
            </p>
            <ul className={fieldStyles.limits}>
              {LIMITS.map((name) => (
                <li key={name}>
                  <Checkbox
                    label={name}
                    checked={Boolean(limit(name))}
                    onChange={(event) =>
                      set({
                        limits: event.currentTarget.checked
                          ? [...form.limits, { limit: name, note: "" }]
                          : form.limits.filter((one) => one.limit !== name),
                      })
                    }
                  />
                  {limit(name) && (
                    <TextInput
                      aria-label={`Note on ${name}`}
                      placeholder="in their own words"
                      size="xs"
                      value={limit(name)?.note ?? ""}
                      onChange={(event) =>
                        set({
                          limits: form.limits.map((one) =>
                            one.limit === name ? { ...one, note: event.currentTarget.value } : one,
                          ),
                        })
                      }
                    />
                  )}
                </li>
              ))}
            </ul>
          </fieldset>
          <div className={fieldStyles.columns}>
            <NumberInput
              label="Bodyweight"
              suffix={` ${unit}`}
              min={0}
              value={form.body_kg ? shownWeight(form.body_kg, unit) : ""}
              onChange={(typed) =>
                set({ body_kg: typeof typed === "number" ? keptWeight(typed, unit) : null })
              }
            />
            <NumberInput
              label="Highest heart rate, if it was measured"
              suffix=" a minute"
              min={100}
              max={240}
              value={form.heart?.highest ?? ""}
              onChange={(typed) =>
                set({
                  heart: { ...form.heart, highest: typeof typed === "number" ? typed : null },
                })
              }
            />
            <NumberInput
              label="Resting heart rate, if it is known"
              suffix=" a minute"
              min={25}
              max={120}
              value={form.heart?.resting ?? ""}
              onChange={(typed) =>
                set({
                  heart: { ...form.heart, resting: typeof typed === "number" ? typed : null },
                })
              }
            />
            <TagsInput
              label="Kit at home"
              value={form.home_kit}
              onChange={(home_kit) => set({ home_kit })}
            />
          </div>
          <fieldset className={fieldStyles.known}>
            <legend>Compared with others</legend>
            <div className={fieldStyles.rungPicks}>
              <NumberInput
                label="Year of birth, for age groups"
                size="xs"
                min={1900}
                max={2100}
                value={form.born ?? ""}
                onChange={(value) => set({ born: typeof value === "number" ? value : null })}
              />
              <Select
                label="Relative strength"
                size="xs"
                placeholder="not compared"
                clearable
                value={form.strength_as ?? null}
                data={[
                  { value: "women", label: "by the women’s formula" },
                  { value: "men", label: "by the men’s formula" },
                ]}
                onChange={(value) =>
                  set({ strength_as: value === "men" || value === "women" ? value : null })
                }
              />
            </div>
            <Select
              label="Loads in my own unit: on my day beside the gym's, and here"
              size="xs"
              placeholder="the gym's unit alone"
              clearable
              value={form.unit ?? null}
              data={["kg", "lb"]}
              onChange={(value) => set({ unit: value === "kg" || value === "lb" ? value : null })}
            />
            <Checkbox
              label="Leave me out of standings"
              checked={form.hidden ?? false}
              onChange={(event) => set({ hidden: event.currentTarget.checked })}
            />
            <Checkbox
              label="The wall may show what changed since my last time"
              checked={form.on_the_wall ?? false}
              onChange={(event) => set({ on_the_wall: event.currentTarget.checked })}
            />
            <Checkbox
              label="The wall may show my heart rate while the class's clock runs, if I wear a strap"
              checked={form.heart_shown ?? false}
              onChange={(event) => set({ heart_shown: event.currentTarget.checked })}
            />
            <Checkbox
              label="Members may see which classes I come to"
              checked={form.seen ?? false}
              onChange={(event) => set({ seen: event.currentTarget.checked })}
            />
          </fieldset>
          <Textarea
            label="Notes"
            autosize
            minRows={2}
            value={form.notes}
            onChange={(event) => set({ notes: event.currentTarget.value })}
          />
        </>
      )}
      <SaveBar unsaved={edited.unsaved} outcome={edited.outcome} saving={sending} />
    </form>
  );
}
