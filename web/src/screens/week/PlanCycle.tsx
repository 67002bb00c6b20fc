// A cycle of weeks planned: what each week stresses first, then its days drafted one by one.
import { Autocomplete, Button, Checkbox, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { bank as bankQuery, movements, settings as settingsQuery } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { useDrafting } from "../../training/useDrafting";
import { brief, shift, WEEKDAYS } from "../../ui/dates";
import { DraftedDays, type Tell } from "./DraftedDays";
import styles from "./Planning.module.css";

type Plan = Schemas["CyclePlan"];
type School = Schemas["CycleForm"]["school"];

const WEEKS = [4, 5, 6, 7, 8, 9, 10, 11, 12];
const SCHOOLS: readonly { value: NonNullable<School>; label: string; why: string }[] = [
  {
    value: "linear",
    label: "Linear",
    why: "One thing at a time: slow or long first, then heavy, then sharp. Simple to follow, and easy on beginners.",
  },
  {
    value: "undulating",
    label: "Undulating",
    why: "Volume and intensity take turns week by week, so that neither is lost. Suits those who have lifted for years.",
  },
];

function Weeks({ plan }: { plan: Plan }) {
  return (
    <div className={styles.wide}>
      <table className={styles.change} data-words>
        <caption>
          {plan.name}: the first day of each week is the goal’s, the others keep up the rest.
        </caption>
        <thead>
          <tr>
            <th scope="col">Week</th>
            <th scope="col">Stresses</th>
            <th scope="col">{plan.goal}</th>
            <th scope="col">Days</th>
          </tr>
        </thead>
        <tbody>
          {plan.weeks.map(({ phase, dates }, place) => (
            <tr key={dates[0]?.date}>
              <th scope="row">{place + 1}</th>
              <td>{phase.stress}</td>
              <td>{phase.work}</td>
              <td>
                {dates
                  .map(({ date, written, closed }) =>
                    [brief(date), written ? " (written)" : closed && ` (${closed})`]
                      .filter(Boolean)
                      .join(""),
                  )
                  .join(", ")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

export function PlanCycle({
  monday,
  today,
  tell,
  onClose,
}: {
  monday: string;
  today: string;
  tell: Tell;
  onClose: () => void;
}) {
  const library = useQuery(movements({}));
  const bank = useQuery(bankQuery);
  const settings = useQuery(settingsQuery);
  const [goal, setGoal] = useState("");
  const [weeks, setWeeks] = useState(6);
  const [start, setStart] = useState(monday > today ? monday : shift(monday, 7));
  const [weekdays, setWeekdays] = useState<readonly number[]>([0, 2, 4]);
  const [ownSchool, setSchool] = useState<NonNullable<School> | null>(null);
  const school = ownSchool ?? settings.data?.settings.style?.cycle ?? "linear";
  const [plan, setPlan] = useState<Plan | null>(null);
  const [problem, setProblem] = useState("");
  const form = { goal, weeks, start, weekdays: [...weekdays], school };
  const drafting = useDrafting((date, drafted, seed, signal) =>
    ask(api.POST("/api/cycles/day", { signal, body: { ...form, date, drafted, seed } })),
  );
  const show = useWrite(() => ask(api.POST("/api/cycles/plan", { body: form })), {
    onDone: (shown) => {
      setPlan(shown);
      setProblem("");
    },
    onRefused: (refusal) => setProblem(refusal.message),
  });
  /** What was planned no longer holds once a wish has changed. */
  const changed = () => {
    setPlan(null);
    drafting.clear();
  };
  const open =
    plan?.weeks.flatMap(({ dates }) =>
      dates.filter((day) => !day.written && !day.closed).map((day) => day.date),
    ) ?? [];
  return (
    <section className={styles.panel} aria-labelledby="plan-cycle">
      <h2 id="plan-cycle">Plan a cycle</h2>
      <p>
        Weeks that lead to a lift, to a run or a machine, or to one of your saved workouts as a
        test. Every fourth week is lighter; the test stands in the last.
      </p>
      <div className={styles.fields}>
        <Autocomplete
          label="Leads to"
          placeholder="back squat"
          data={[
            ...new Set([
              ...(bank.data?.map((board) => board.name) ?? []),
              ...(library.data?.found.map((movement) => movement.name) ?? []),
            ]),
          ]}
          limit={8}
          value={goal}
          onChange={(value) => {
            setGoal(value);
            changed();
          }}
        />
        <NativeSelect
          label="Weeks"
          value={weeks}
          onChange={(event) => {
            setWeeks(Number(event.currentTarget.value));
            changed();
          }}
          data={WEEKS.map(String)}
        />
        <TextInput
          type="date"
          label="From"
          value={start}
          onChange={(event) => {
            setStart(event.currentTarget.value);
            changed();
          }}
        />
        <NativeSelect
          label="School"
          value={school}
          onChange={(event) => {
            setSchool(event.currentTarget.value as NonNullable<School>);
            changed();
          }}
          data={SCHOOLS.map(({ value, label }) => ({ value, label }))}
        />
        <fieldset>
          <legend>Training days</legend>
          {WEEKDAYS.map((name, day) => (
            <Checkbox
              key={name}
              label={name}
              checked={weekdays.includes(day)}
              onChange={(event) => {
                const on = event.currentTarget.checked;
                setWeekdays((all) =>
                  on ? [...all, day].sort() : all.filter((other) => other !== day),
                );
                changed();
              }}
            />
          ))}
        </fieldset>
      </div>
      <p>{SCHOOLS.find((each) => each.value === school)?.why}</p>
      {problem && <p role="alert">No cycle: {problem}</p>}
      <div className={styles.fields}>
        <Button
          loading={show.isPending}
          disabled={!goal.trim() || weekdays.length === 0 || !start}
          onClick={() => show.mutate(undefined)}
        >
          Show the weeks
        </Button>
        <Button variant="default" onClick={onClose}>
          Close
        </Button>
      </div>
      {plan && <Weeks plan={plan} />}
      {plan && open.length > 0 && Object.keys(drafting.drafts).length === 0 && (
        <div className={styles.fields}>
          <Button disabled={Boolean(drafting.working)} onClick={() => drafting.start(open)}>
            {open.length === 1 ? "Draft 1 day" : `Draft ${open.length} days`}
          </Button>
        </div>
      )}
      {plan && open.length === 0 && (
        <p>All these days are written or closed: there is nothing to draft.</p>
      )}
      <DraftedDays drafting={drafting} tell={tell} onSaved={onClose} />
    </section>
  );
}
