// What the week is about: a line in a coach's words that stands on each of its days.
import { Button, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import styles from "./Theme.module.css";

export function Theme({
  monday,
  text,
  version,
}: {
  monday: string;
  text: string;
  version: number;
}) {
  // Until something is typed what is kept stands; what is typed outlives a colleague's change.
  const [own, setOwn] = useState<string | null>(null);
  const typed = own ?? text;
  const [problem, setProblem] = useState("");
  const keep = useWrite(
    () =>
      ask(
        api.PUT("/api/week/{date}/theme", {
          params: { path: { date: monday } },
          body: { text: typed, version },
        }),
      ),
    {
      onDone: () => setOwn(null),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.weeks, keys.days],
      said: () => (typed.trim() ? "Saved: it stands on each day of the week." : "Taken away."),
    },
  );
  const changed = typed.trim() !== text;
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (changed) keep.mutate(undefined);
  };
  return (
    <form className={styles.theme} onSubmit={send}>
      <TextInput
        label="This week"
        placeholder="what it is about: stands on each of its days"
        maxLength={300}
        value={typed}
        error={problem && `${problem}. It says now: ${text || "nothing"}`}
        onChange={(event) => {
          setOwn(event.currentTarget.value);
          setProblem("");
        }}
      />
      {changed && (
        <Button type="submit" size="compact-md" loading={keep.isPending}>
          Save
        </Button>
      )}
    </form>
  );
}
