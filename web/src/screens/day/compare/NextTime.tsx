// The change that a piece's scores ask for next time, and its day copied a week on with that change.
import { Button } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useWrite } from "../../../api/writes";
import { shift, spoken } from "../../../ui/dates";
import styles from "./Compare.module.css";

export function NextTime({ date, piece }: { date: string; piece: string }) {
  const found = useQuery({
    queryKey: keys.nextTime(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/next-time", { signal, params: { path: { date } } })),
  });
  const weekOn = shift(date, 7);
  const copy = useWrite(
    (step: string) =>
      ask(
        api.POST("/api/days/{date}/forward", {
          params: { path: { date } },
          body: { accept: [step] },
        }),
      ),
    {
      touches: () => [keys.weeks, keys.days],
      onDone: (made) =>
        notifications.show({ message: `Written on ${spoken(made.date)} with this change.` }),
    },
  );
  const advice = found.data?.find((each) => each.piece === piece)?.advice;
  if (!advice) return null;
  return (
    <section className={styles.next} aria-label="Next time">
      <b>Next time</b>
      <span>{advice.told}</span>
      {advice.step && (
        <Button
          size="compact-sm"
          variant="default"
          loading={copy.isPending}
          onClick={() => copy.mutate(advice.step ?? "")}
        >
          Copy the day to {spoken(weekOn)} with this change
        </Button>
      )}
    </section>
  );
}
