// What became of a score: every change, and what was asked and answered.
import type { Schemas } from "../api/client";
import doubtStyles from "../ui/doubt.module.css";

type Step = Schemas["TrailStep"];

export const STANDS: Record<string, string> = {
  doubted: "needs checking",
  asked: "asked the athlete",
  answered: "the athlete answered",
  verified: "verified",
};

/** The newest words of a trail, with who wrote them. */
export function LastWords({ steps }: { steps: readonly Step[] }) {
  const step = steps.findLast((one) => one.note);
  return step ? (
    <span className={doubtStyles.lastWords}>
      {step.by}: “{step.note}”
    </span>
  ) : null;
}

export function ScoreHistory({ steps }: { steps: readonly Step[] }) {
  return (
    <ol>
      {steps.map((step) => (
        <li key={step.at}>
          {step.by}: {step.after || "taken back"}
          {step.standing && step.standing !== "fine" && ` · ${STANDS[step.standing]}`}
          {step.note && ` · “${step.note}”`}
        </li>
      ))}
    </ol>
  );
}
