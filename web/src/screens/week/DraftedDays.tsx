// Drafts of several days: what is being made, each day's draft, and writing them all.
import { Button, Progress } from "@mantine/core";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { Draft, Drafts } from "../../training/Draft";
import type { useDrafting } from "../../training/useDrafting";
import { spoken } from "../../ui/dates";
import styles from "./DraftedDays.module.css";
import { removeDrafts, saveDrafts } from "./saveDrafts";

export type Tell = (said: string, undo: (() => Promise<unknown>) | undefined) => void;

const counted = (days: number) => (days === 1 ? "1 day" : `${days} days`);

export function DraftedDays({
  drafting,
  tell,
  onSaved,
}: {
  drafting: ReturnType<typeof useDrafting>;
  tell: Tell;
  onSaved: () => void;
}) {
  const { drafts, problems, working } = drafting;
  const dates = Object.keys(drafts).sort();
  const save = useWrite(saveDrafts, {
    touches: () => [keys.weeks, keys.days, keys.bank],
    onDone: ({ saved, skipped }) => {
      const left = skipped.length
        ? ` ${skipped.map((date) => spoken(date)).join(", ")} had been written in the meantime and ${
            skipped.length === 1 ? "stays as it is" : "stay as they are"
          }.`
        : "";
      tell(
        `${counted(saved.length)} written; members see nothing until you publish.${left}`,
        saved.length ? () => removeDrafts(saved) : undefined,
      );
      drafting.clear();
      onSaved();
    },
  });
  return (
    <>
      {working && (
        <div className={styles.working} role="status">
          <span>
            Drafting {spoken(working.date)} ({working.at} of {working.of})
          </span>
          <Progress value={(100 * (working.at - 1)) / working.of} aria-label="Days drafted" />
          <Button size="compact-sm" variant="default" onClick={drafting.cancel}>
            Stop here
          </Button>
        </div>
      )}
      {Object.entries(problems).map(([date, why]) => (
        <p key={date} role="alert">
          No draft for {spoken(date)}: {why}
        </p>
      ))}
      {dates.length > 0 && (
        <Drafts label="Drafts">
          {dates.map((date) => {
            const draft = drafts[date];
            return (
              draft && (
                <li key={date}>
                  <Draft draft={draft} heading={spoken(date)} folded={dates.length > 7}>
                    <Button
                      size="compact-sm"
                      variant="default"
                      disabled={Boolean(working)}
                      onClick={() => drafting.again(date)}
                      aria-label={`Another draft for ${spoken(date)}`}
                    >
                      Another
                    </Button>
                    <Button
                      size="compact-sm"
                      variant="subtle"
                      disabled={Boolean(working)}
                      onClick={() => drafting.drop(date)}
                      aria-label={`Leave ${spoken(date)} empty`}
                    >
                      Leave empty
                    </Button>
                  </Draft>
                </li>
              )
            );
          })}
        </Drafts>
      )}
      {dates.length > 0 && !working && (
        <div className={styles.acts}>
          <Button loading={save.isPending} onClick={() => save.mutate(drafting.texts)}>
            Write {counted(dates.length)}
          </Button>
          <Button variant="default" onClick={drafting.clear}>
            Discard the drafts
          </Button>
        </div>
      )}
    </>
  );
}
