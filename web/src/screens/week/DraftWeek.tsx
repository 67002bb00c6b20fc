// The empty days of a week drafted one after the other; written days stay as they are.
import { Button, Checkbox } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useDrafting } from "../../training/useDrafting";
import { useDraftWishes } from "../../training/useDraftWishes";
import { spoken } from "../../ui/dates";
import { DraftedDays, type Tell } from "./DraftedDays";
import { LoadChange } from "./LoadChange";
import styles from "./Planning.module.css";

export function DraftWeek({
  week,
  today,
  tell,
  onClose,
}: {
  week: Schemas["Week"];
  today: string;
  tell: Tell;
  onClose: () => void;
}) {
  const empty = week.days.filter((day) => !day.outline && day.day.date >= today);
  const [chosen, setChosen] = useState<readonly string[]>(
    empty.filter((day) => !day.closed).map((day) => day.day.date),
  );
  const { fields, wishes } = useDraftWishes();
  const drafting = useDrafting(async (date, drafted, seed, signal) => {
    const [draft] = await ask(
      api.POST("/api/days/{date}/drafts", {
        signal,
        params: { path: { date } },
        body: { ...wishes, count: 1, by_turn: true, seed, drafted },
      }),
    );
    if (!draft) throw new Error("no draft");
    return draft;
  });
  const made = Object.keys(drafting.drafts).length > 0;
  const after = useQuery({
    queryKey: keys.weekPreview(week.monday, drafting.texts),
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/week/{date}/preview", {
          signal,
          params: { path: { date: week.monday } },
          body: { texts: drafting.texts },
        }),
      ),
    enabled: made && !drafting.working,
    gcTime: 0,
  });
  if (empty.length === 0)
    return <p>No day from today on is empty in this week: there is nothing to draft.</p>;
  return (
    <section className={styles.panel} aria-labelledby="draft-week">
      <h2 id="draft-week">Draft the empty days</h2>
      <p>
        From your own boards, kit and people. Days that are written stay as they are; nothing is
        kept until you write it, and nothing is published.
      </p>
      <div className={styles.fields}>
        <fieldset>
          <legend>Days</legend>
          {empty.map(({ day, closed }) => (
            <Checkbox
              key={day.date}
              label={closed ? `${spoken(day.date)} (closed)` : spoken(day.date)}
              checked={chosen.includes(day.date)}
              onChange={(event) => {
                const on = event.currentTarget.checked;
                setChosen((all) =>
                  on ? [...all, day.date].sort() : all.filter((date) => date !== day.date),
                );
              }}
            />
          ))}
        </fieldset>
        {fields}
        <Button
          disabled={chosen.length === 0 || Boolean(drafting.working)}
          onClick={() => drafting.start(chosen)}
        >
          {chosen.length === 1 ? "Draft 1 day" : `Draft ${chosen.length} days`}
        </Button>
        <Button variant="default" onClick={onClose}>
          Close
        </Button>
      </div>
      <DraftedDays drafting={drafting} tell={tell} onSaved={onClose} />
      {made && after.data && <LoadChange before={week} after={after.data} />}
    </section>
  );
}
