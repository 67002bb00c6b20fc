// The gym: its hour, what it owns and can load, and the trade schools it follows.
import { Autocomplete, Button, NumberInput, Select, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useProgramme } from "../../api/programme";
import { settings as settingsQuery } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { WEEKDAYS } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";
import pageStyles from "../../ui/page.module.css";
import { SaveBar } from "../../ui/SaveBar";
import { Failed, Waiting } from "../../ui/states";
import { useEdited } from "../../ui/useEdited";
import { ClosingDays } from "./ClosingDays";
import { Exports } from "./Exports";
import styles from "./Gym.module.css";
import { HowWeTrain } from "./HowWeTrain";
import { ImportFile } from "./ImportFile";
import { ImportScores } from "./ImportScores";
import { ImportTables } from "./ImportTables";
import { Mail } from "./Mail";
import { Programmes } from "./Programmes";
import { Seasons } from "./Seasons";
import { useStillOpen } from "./SetupChecklist";
import { TiersAndTracks } from "./TiersAndTracks";

type Settings = Schemas["Settings"];

const ZONES = Intl.supportedValuesOf("timeZone");

/** A piece of kit as it was typed, with its number: `6 rowers` are six. */
function counted(typed: string): Record<string, number> {
  const text = typed.trim().replace(/\s+/g, " ");
  if (/^\d+(?:[.,]\d+)? ?(?:kg|lb)?$/i.test(text)) return { [text]: 1 };
  const several = /^(\d{1,3}) ?x? ([^\d].*)$/i.exec(text);
  const [, count, name] = several ?? ["", "1", text];
  const one = Number(count) > 1 ? name.replace(/([^s])s$/i, "$1") : name;
  return one ? { [one]: Number(count) } : {};
}

/** Things and how many of each, with a row to add one. */
function Counts({
  id,
  title,
  placeholder,
  unit = "",
  choices = [],
  values,
  order,
  typed,
  onTyped,
  onChange,
}: {
  id?: string;
  title: string;
  placeholder: string;
  unit?: string;
  choices?: readonly string[];
  values: Record<string, number>;
  order: (a: string, b: string) => number;
  /** The text in the box to add; saving takes it too. */
  typed: string;
  onTyped: (typed: string) => void;
  onChange: (values: Record<string, number>) => void;
}) {
  const add = () => {
    onChange({ ...values, ...counted(typed) });
    onTyped("");
  };
  return (
    <fieldset className={fieldStyles.known} id={id}>
      <legend>{title}</legend>
      <ul>
        {Object.keys(values)
          .sort(order)
          .map((key) => (
            <li key={key}>
              <span>{/lb$/.test(key) ? key : `${key}${unit}`}</span>
              <NumberInput
                aria-label={`${title}: ${key}${unit}`}
                size="xs"
                w={84}
                min={0}
                value={values[key]}
                onChange={(count) =>
                  typeof count === "number" && onChange({ ...values, [key]: count })
                }
              />
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Remove ${key}${unit}`}
                onClick={() => {
                  const { [key]: _gone, ...rest } = values;
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
          aria-label={`${title}: add`}
          placeholder={placeholder}
          size="xs"
          value={typed}
          data={choices.filter((one) => !(one in values))}
          limit={12}
          onChange={onTyped}
        />
        <Button size="compact-sm" variant="default" disabled={!typed.trim()} onClick={add}>
          Add
        </Button>
      </div>
    </fieldset>
  );
}

type Weight = NonNullable<Settings["unit"]>;

/** What a load is in where none is written; before a change, what becomes of the boards there are. */
function Unit(props: { kept: Weight; chosen: Weight; onChange: (unit: Weight) => void }) {
  const changed = props.chosen !== props.kept;
  const bare = useQuery({
    queryKey: keys.bareLoads,
    queryFn: ({ signal }) => ask(api.GET("/api/settings/bare-loads", { signal })),
    enabled: changed,
  });
  const boards = bare.data?.boards;
  const told = boards === undefined ? "Every load keeps the unit it has" : said(boards, props.kept);
  return (
    <Select
      label="Default weight unit"
      description={changed ? told : "24/16 on a board; a unit that is written stands"}
      allowDeselect={false}
      value={props.chosen}
      data={["kg", "lb"]}
      onChange={(unit) => unit && props.onChange(unit as Weight)}
    />
  );
}

const said = (boards: number, unit: Weight) =>
  boards === 0
    ? "No board has a load without a unit: nothing changes on any of them"
    : `${boards} ${boards === 1 ? "board has loads" : "boards have loads"} without a unit: ${unit} is written into them first`;

/** The settings while they are changed, with what stands in boxes beside lists. */
type Typed = Settings & { barsTyped: string; plate: string; thing: string };

/** The settings: one form whose parts stand on several tabs; what is typed stays from tab to tab. */
function Form({
  initial,
  line,
  tab,
}: {
  initial: Schemas["SettingsOut"];
  line?: string | false;
  tab: Tab;
}) {
  const client = useQueryClient();
  const edited = useEdited<Typed>({
    ...initial.settings,
    barsTyped: initial.settings.bars.join(", "),
    plate: "",
    thing: "",
  });
  const { value: form, set } = edited;
  const number = (
    field:
      | "class_min"
      | "change_s"
      | "class_size"
      | "sign_in_days"
      | "nights_kept"
      | "late_cancel_min",
    label: string,
    unit: string,
  ) => (
    <NumberInput
      label={label}
      suffix={unit}
      min={0}
      value={form[field]}
      onChange={(value) => typeof value === "number" && set({ [field]: value })}
    />
  );
  const [version, setVersion] = useState(initial.version);
  const sent = useRef(form);
  const write = useWrite(
    (body: Schemas["SettingsForm"]) => ask(api.PUT("/api/settings", { body })),
    {
      onDone: (done) => {
        setVersion(done.version);
        const boxes = { barsTyped: done.settings.bars.join(", "), plate: "", thing: "" };
        edited.takeSaved(sent.current, { ...done.settings, ...boxes });
        client.setQueryData(keys.settings, done);
        client.invalidateQueries();
      },
      onRefused: (refusal) => edited.refuse(refusal.message),
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    const { barsTyped, plate, thing, ...settings } = form;
    const marks = barsTyped.split(",").map((bar) => bar.trim());
    const plates = { ...form.plates, ...(plate.trim() ? { [plate.trim()]: 1 } : {}) };
    const kit = { ...form.kit, ...counted(thing) };
    set({ plates, kit, plate: "", thing: "" });
    sent.current = { ...form, plates, kit, plate: "", thing: "" };
    write.mutate({ settings: { ...settings, plates, kit, bars: marks.filter(Boolean) }, version });
  };
  const discard = (event: FormEvent) => {
    event.preventDefault();
    edited.discard();
  };
  return (
    <form
      onSubmit={send}
      onReset={discard}
      className={fieldStyles.profile}
      hidden={!FORM_TABS.includes(tab)}
    >
      <div hidden={tab !== "hour"}>
        <fieldset className={`${fieldStyles.known} ${styles.hour}`}>
          <legend>The hour</legend>
          <TextInput
            label="Name of the gym"
            required
            value={form.name ?? ""}
            onChange={(event) => set({ name: event.currentTarget.value })}
          />
          {number("class_min", "A class lasts", " min")}
          {number("change_s", "Change-over between pieces", " s")}
          {number("class_size", "Athletes in a class", "")}
          {number("late_cancel_min", "Late to cancel a booking within (0: never)", " min")}
          {number("sign_in_days", "A sign-in lasts unused", " days")}
          {number("nights_kept", "Nightly backups kept (0: none)", "")}
          <Unit
            kept={initial.settings.unit ?? "kg"}
            chosen={form.unit ?? "kg"}
            onChange={(unit) => set({ unit })}
          />
          <Autocomplete
            label="Time zone of the gym"
            description="Its days and classes are those there"
            data={ZONES}
            limit={8}
            value={form.zone}
            onChange={(zone) => set({ zone })}
          />
        </fieldset>
      </div>
      <div className={fieldStyles.columns} hidden={tab !== "kit"}>
        <div>
          <Counts
            title="Plates"
            unit=" kg"
            placeholder="20 or 45 lb"
            typed={form.plate}
            onTyped={(plate) => set({ plate })}
            values={form.plates}
            order={(a, b) => Number.parseFloat(b) - Number.parseFloat(a)}
            onChange={(plates) => set({ plates })}
          />
          <TextInput
            label="Bars"
            value={form.barsTyped}
            onChange={(event) => set({ barsTyped: event.currentTarget.value })}
          />
        </div>
        <Counts
          id="kit"
          title="Kit"
          placeholder="kettlebell 20 kg, or 6 rowers"
          choices={initial.kit_choices}
          typed={form.thing}
          onTyped={(thing) => set({ thing })}
          values={form.kit}
          order={(a, b) => a.localeCompare(b, "en", { numeric: true })}
          onChange={(kit) => set({ kit })}
        />
      </div>
      <div hidden={tab !== "classes"}>
        <fieldset className={fieldStyles.known} id="classes">
          <legend>{line ? `Classes of the week: ${line}` : "Classes of the week"}</legend>
          <p>
            As <code>6:30, 18:00</code>; a class of its own length, size or place as{" "}
            <code>18:00 75 min 8 places in the shed</code>.
          </p>
          <div className={fieldStyles.rungPicks}>
            {WEEKDAYS.map((day, at) => (
              <TextInput
                key={day}
                label={day}
                size="xs"
                value={form.classes?.[at] ?? ""}
                onChange={(event) => {
                  const classes = WEEKDAYS.map((_, one) => form.classes?.[one] ?? "");
                  classes[at] = event.currentTarget.value;
                  set({ classes });
                }}
              />
            ))}
          </div>
        </fieldset>
        <ClosingDays days={form.closed ?? []} onChange={(closed) => set({ closed })} />
        <Seasons
          seasons={form.seasons ?? []}
          usual={form.classes ?? []}
          onChange={(seasons) => set({ seasons })}
        />
      </div>
      <div hidden={tab !== "training"}>
        <fieldset className={fieldStyles.known}>
          <legend>Scoring rules</legend>
          <div className={fieldStyles.rungPicks}>
            <Select
              label="Standings of tiers"
              size="xs"
              allowDeselect={false}
              value={form.standings ?? "tiers apart"}
              data={["tiers apart", "tier order", "total work"]}
              onChange={(value) =>
                set({ standings: (value as typeof form.standings) ?? undefined })
              }
            />
            <Select
              label="Tabata score"
              size="xs"
              allowDeselect={false}
              value={form.tabata ?? "total reps"}
              data={["total reps", "lowest interval"]}
              onChange={(value) => set({ tabata: (value as typeof form.tabata) ?? undefined })}
            />
            {initial.choices.map((choice) => (
              <Select
                key={`${choice.movement}${choice.instead}`}
                label={`${choice.instead} for ${choice.movement}`}
                size="xs"
                allowDeselect={false}
                value={form.schools?.[choice.movement] ?? choice.chosen}
                data={choice.schools}
                onChange={(school) =>
                  school && set({ schools: { ...form.schools, [choice.movement]: school } })
                }
              />
            ))}
          </div>
        </fieldset>
        <HowWeTrain style={form.style} onChange={(style) => set({ style })} />
      </div>
      <SaveBar unsaved={edited.unsaved} outcome={edited.outcome} saving={write.isPending} />
    </form>
  );
}

function StillOpen() {
  const left = useStillOpen().data?.filter((step) => !step.done).length;
  if (!left) return null;
  return (
    <p>
      <Link to="/first-evening">{left === 1 ? "1 step" : `${left} steps`} to the first class</Link>{" "}
      still open.
    </p>
  );
}

const TABS = [
  { tab: "hour", label: "The hour" },
  { tab: "classes", label: "Classes" },
  { tab: "kit", label: "Kit" },
  { tab: "training", label: "Training and scoring" },
  { tab: "programmes", label: "Programmes" },
  { tab: "mail", label: "Mail" },
  { tab: "import", label: "Import" },
  { tab: "export", label: "Export and backup" },
] as const;
type Tab = (typeof TABS)[number]["tab"];
const FORM_TABS: readonly Tab[] = ["hour", "classes", "kit", "training"];

/** The tab that the address names behind its #, else the first. */
const tabAt = (hash: string): Tab =>
  TABS.find(({ tab }) => tab === hash.replace("#", ""))?.tab ?? "hour";

export function Gym({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const found = useQuery(settingsQuery);
  const line = useProgramme() ?? gym.programmes[0]?.id;
  const named = gym.programmes.length > 1 && gym.programmes.find((one) => one.id === line)?.name;
  const [tab, setTab] = useState<Tab>(tabAt(useLocation().hash));
  // What was opened stays: nothing that is typed there goes with a change of tabs.
  const [opened, setOpened] = useState<readonly Tab[]>([tab]);
  const open = (next: Tab) => {
    setTab(next);
    setOpened((all) => (all.includes(next) ? all : [...all, next]));
    // The address follows without a step back for every tab.
    window.history.replaceState(window.history.state, "", `#${next}`);
  };
  const parts: readonly { of: Tab; part: ReactNode }[] = [
    { of: "training", part: <TiersAndTracks /> },
    { of: "programmes", part: <Programmes /> },
    { of: "mail", part: <Mail /> },
    {
      of: "import",
      part: (
        <>
          <ImportFile />
          <ImportScores />
          <ImportTables />
        </>
      ),
    },
    { of: "export", part: <Exports /> },
  ];
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="gym">
      <article className={pageStyles.athlete}>
        <h1>{gym.name}</h1>
        <p>
          <Link to="/people">People</Link>: who trains here, who coaches, who may sign in.
        </p>
        <StillOpen />
        <nav aria-label="Gym" className={styles.tabs}>
          {TABS.map(({ tab: name, label }) => (
            <button
              key={name}
              type="button"
              aria-current={name === tab ? "page" : undefined}
              onClick={() => open(name)}
            >
              {label}
            </button>
          ))}
        </nav>
        {found.error && <Failed error={found.error} />}
        {found.isPending && <Waiting />}
        {found.data && <Form initial={found.data} line={named} tab={tab} />}
        {parts.map(({ of, part }) => (
          <div key={of} hidden={of !== tab}>
            {opened.includes(of) && part}
          </div>
        ))}
      </article>
    </Frame>
  );
}
