// A doubted score: the numbers that speak against it, and what the coach makes of them.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";

type Step = Schemas["TrailStep"];

const STANDS: Record<string, string> = {
  doubted: "to verify",
  asked: "asked the athlete",
  answered: "the athlete answered",
  verified: "verified",
};

export function Doubt({ date, score }: { date: string; score: Schemas["ScoreOut"] }) {
  const client = useQueryClient();
  const [problem, setProblem] = useState("");
  const [trail, setTrail] = useState<Step[] | null>(null);
  const path = { date, key: score.piece_key, person_id: score.person_id };
  const judge = async (verdict: "verified" | "asked") => {
    try {
      await ask(
        api.POST("/api/days/{date}/pieces/{key}/scores/{person_id}/judge", {
          params: { path },
          body: { verdict, note: "" },
        }),
      );
    } catch (error) {
      setProblem((error as Error).message);
    }
    await client.invalidateQueries({ queryKey: ["sheet", date] });
    client.invalidateQueries({ queryKey: ["standings", date] });
  };
  const look = async () =>
    setTrail(
      trail
        ? null
        : await ask(
            api.GET("/api/days/{date}/pieces/{key}/scores/{person_id}/trail", {
              params: { path },
            }),
          ),
    );
  return (
    <div className="doubt" data-standing={score.standing}>
      <b>{STANDS[score.standing]}</b>
      {score.standing !== "verified" && <span>{score.doubt}</span>}
      {score.standing !== "verified" && (
        <button type="button" onClick={() => judge("verified")}>
          Verify
        </button>
      )}
      {score.standing === "doubted" && (
        <button type="button" onClick={() => judge("asked")}>
          Ask
        </button>
      )}
      <button type="button" aria-expanded={trail !== null} onClick={look}>
        Trail
      </button>
      {problem && <span role="alert">{problem}</span>}
      {trail && (
        <ol>
          {trail.map((step) => (
            <li key={step.at}>
              {step.by}: {step.after || "taken back"}
              {step.standing && step.standing !== "fine" && ` · ${STANDS[step.standing]}`}
              {step.note && ` · “${step.note}”`}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
