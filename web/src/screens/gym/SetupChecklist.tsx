// The first evening: what the gym still wants before its first class, each a step away.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import pageStyles from "../../ui/page.module.css";
import { Failed, Waiting } from "../../ui/states";
import styles from "./SetupChecklist.module.css";

type Gym = Schemas["GymOut"];

const WORDS: Record<string, { title: string; why: string; to?: string; go?: string }> = {
  classes: {
    title: "Class times",
    why: "Run opens on the class that is on; members see when to come.",
    to: "/gym#classes",
    go: "Say when classes are",
  },
  kit: {
    title: "Kit and plates",
    why: "Boards are checked against what is there, bars are loaded with plates you own.",
    to: "/gym#kit",
    go: "List the kit",
  },
  people: {
    title: "Members",
    why: "Import a list or add one at a time; invitations are links you hand over.",
    to: "/people",
    go: "Add people",
  },
  "first day": {
    title: "The first day",
    why: "Write it, or begin from a template week and make it yours.",
  },
  published: {
    title: "Shown to members",
    why: "A day is a draft until it is published; then it is on every phone.",
  },
};

/** Whether what the gym wants before its first class is there. */
export const useStillOpen = () =>
  useQuery({
    queryKey: keys.stillOpen,
    queryFn: ({ signal }) => ask(api.GET("/api/setup/open", { signal })),
  });

function Template({ gym, done }: { gym: Gym; done: boolean }) {
  const [said, setSaid] = useState("");
  const write = useWrite(
    (week: boolean) =>
      ask(
        api.POST("/api/week/{date}/template", {
          params: { path: { date: gym.today } },
          body: { week },
        }),
      ),
    {
      onDone: (days) =>
        setSaid(`${days.length} ${days.length === 1 ? "day is" : "days are"} written, as drafts.`),
      onRefused: (refusal) => setSaid(refusal.message),
      touches: () => [keys.stillOpen, keys.weeks, keys.days],
    },
  );
  return (
    <>
      {!done && (
        <>
          <Button variant="default" onClick={() => write.mutate(false)} loading={write.isPending}>
            Begin today from the template
          </Button>
          <Button variant="default" onClick={() => write.mutate(true)} loading={write.isPending}>
            Fill this week from it
          </Button>
        </>
      )}
      {said && <span role="status">{said}</span>}
    </>
  );
}

export function SetupChecklist({ me, gym }: { me: Schemas["Me"]; gym: Gym }) {
  const steps = useStillOpen();
  const left = steps.data?.filter((step) => !step.done).length;
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="gym">
      <article className={pageStyles.athlete}>
        <h1>The first evening</h1>
        {left !== undefined && (
          <p>
            {left === 0
              ? `${gym.name} is ready for its first class.`
              : `${left} of ${steps.data?.length} still open. Each can be left for later.`}
          </p>
        )}
        {steps.error && <Failed error={steps.error} retry={() => steps.refetch()} />}
        {steps.isPending && <Waiting />}
        <ol className={styles.steps}>
          {steps.data?.map(({ key, done }) => {
            const words = WORDS[key];
            if (!words) return null;
            return (
              <li key={key} data-done={done || undefined}>
                <h2>{words.title}</h2>
                <strong>{done ? "done" : "open"}</strong>
                <p>{words.why}</p>
                <div className={styles.ways}>
                  {words.to && <Link to={words.to}>{done ? "Look at it" : words.go}</Link>}
                  {key === "first day" && (
                    <>
                      <Link to={`/day/${gym.today}/write`}>Write today</Link>
                      <Template gym={gym} done={done} />
                    </>
                  )}
                  {key === "published" && (
                    <Link to={`/day/${gym.today}/write`}>Look at today, then publish</Link>
                  )}
                </div>
              </li>
            );
          })}
        </ol>
      </article>
    </Frame>
  );
}
