// A score of mine in doubt: why, and my answer when the coach asks.
import { Button, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { myTrail } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { LastWords } from "../../training/ScoreHistory";
import doubtStyles from "../../ui/doubt.module.css";

const STANDS: Record<string, string> = {
  doubted: "A coach will look at this score.",
  asked: "The coach asks about this score.",
  answered: "The coach has your answer.",
  verified: "Verified by a coach.",
};

export function ScoreQuestion({ date, score }: { date: string; score: Schemas["ScoreOut"] }) {
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState("");
  const path = { date, key: score.piece_key };
  const steps = useQuery(myTrail(path, score));
  const answer = useWrite(
    () =>
      ask(
        api.POST("/api/me/days/{date}/pieces/{key}/answer", {
          params: { path },
          body: { note, version: score.version },
        }),
      ),
    {
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.myDay(date)],
    },
  );
  return (
    <div className={doubtStyles.doubt} data-standing={score.standing}>
      <b>{STANDS[score.standing]}</b>
      {score.standing !== "verified" && <span>{score.doubt}</span>}
      <LastWords steps={steps.data ?? []} />
      {(score.standing === "asked" || score.standing === "doubted") && (
        <div className={doubtStyles.answer}>
          <TextInput
            label="My answer"
            value={note}
            onChange={(event) => setNote(event.currentTarget.value)}
            error={problem}
          />
          <Button
            size="xs"
            variant="default"
            disabled={!note.trim()}
            loading={answer.isPending}
            onClick={() => answer.mutate(undefined)}
          >
            Answer
          </Button>
        </div>
      )}
    </div>
  );
}
