// A doubted score: the numbers that speak against it, and what the coach makes of them.
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { trail as trailQuery } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { LastWords, ScoreHistory, STANDS } from "../../../training/ScoreHistory";
import doubtStyles from "../../../ui/doubt.module.css";

export function ScoreCheck({ date, score }: { date: string; score: Schemas["ScoreOut"] }) {
  const [problem, setProblem] = useState("");
  const [open, setOpen] = useState(false);
  const [question, setQuestion] = useState<string | null>(null);
  const path = { date, key: score.piece_key, person_id: score.person_id };
  const talked = score.standing === "asked" || score.standing === "answered";
  const steps = useQuery({ ...trailQuery(path, score), enabled: open || talked });
  const said = useWrite(
    (body: Schemas["JudgeForm"]) =>
      ask(
        api.POST("/api/days/{date}/pieces/{key}/scores/{person_id}/judge", {
          params: { path },
          body,
        }),
      ),
    {
      onDone: () => setQuestion(null),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.scores(date)],
    },
  );
  const judge = (verdict: "verified" | "asked", note: string) =>
    said.mutate({ verdict, note, version: score.version });
  const put = (event: FormEvent) => {
    event.preventDefault();
    judge("asked", question ?? "");
  };
  return (
    <div className={doubtStyles.doubt} data-standing={score.standing}>
      <b>{STANDS[score.standing]}</b>
      {score.standing !== "verified" && <span>{score.doubt}</span>}
      {talked && <LastWords steps={steps.data ?? []} />}
      {score.standing !== "verified" && (
        <button type="button" onClick={() => judge("verified", "")}>
          Accept
        </button>
      )}
      {score.standing === "doubted" && question === null && (
        <button type="button" onClick={() => setQuestion("")}>
          Ask
        </button>
      )}
      <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        Trail
      </button>
      {question !== null && (
        <form onSubmit={put}>
          <input
            aria-label="Question to the athlete"
            placeholder="Full depth on every rep?"
            value={question}
            // biome-ignore lint/a11y/noAutofocus: the coach has just asked to write here
            autoFocus
            maxLength={300}
            onChange={(event) => setQuestion(event.currentTarget.value)}
            onKeyDown={(event) => event.key === "Escape" && setQuestion(null)}
          />
          <button type="submit">Send the question</button>
        </form>
      )}
      {problem && <span role="alert">{problem}</span>}
      {open && steps.data && <ScoreHistory steps={steps.data} />}
    </div>
  );
}
