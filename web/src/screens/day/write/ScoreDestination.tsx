// Where do these scores belong? Asked before a save that would leave them without a piece.
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import type { Answers } from "../../../offline/saver";
import conflictStyles from "./conflict.module.css";
import styles from "./ScoreDestination.module.css";

type Asked = Pick<Schemas["DayConflict"], "questions" | "titles">;

const ASIDE = "aside";
const SHOWN = 6;
const WHY: Record<Schemas["PieceQuestion"]["why"], string> = {
  gone: "is no longer on the board",
  doubt: "may be another piece now",
  unreadable: "is scored another way now: these scores could not be read any more",
};

function said({ scores, jots }: Schemas["PieceQuestion"]): string {
  const named = scores.slice(0, SHOWN).map((one) => `${one.name} ${one.display}`);
  const more = scores.length - named.length;
  const notes = jots > 0 ? [`${jots} round times`] : [];
  return [...named, ...(more > 0 ? [`and ${more} more`] : []), ...notes].join(" · ");
}

export function ScoreDestination({
  asked,
  onAnswer,
}: {
  asked: Asked;
  onAnswer: (answers: Answers) => void;
}) {
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const { questions = [], titles = [] } = asked;
  const first = (one: Schemas["PieceQuestion"]) =>
    one.why === "unreadable" || one.likely === null ? ASIDE : String(one.likely);
  const value = (one: Schemas["PieceQuestion"]) => chosen[one.key] ?? first(one);
  const answer = () =>
    onAnswer(
      questions.map((one) => ({
        key: one.key,
        place: value(one) === ASIDE ? null : Number(value(one)),
      })),
    );
  return (
    <div className={conflictStyles.conflict} role="alert">
      <b>Nothing is saved yet. Where do these scores belong?</b>
      {questions.map((one) => (
        <div key={one.key} className={styles.whereto}>
          <p>
            <b>{one.title}</b> {WHY[one.why]}: <span className="num">{said(one)}</span>
          </p>
          <Select
            label={`Scores of ${one.title}`}
            allowDeselect={false}
            value={value(one)}
            onChange={(next) => next && setChosen({ ...chosen, [one.key]: next })}
            data={[
              { value: ASIDE, label: "Keep them aside, with the piece as it was" },
              ...titles.map((title, place) => ({
                value: String(place),
                label: `They are of ${title} (piece ${place + 1})`,
              })),
            ]}
          />
        </div>
      ))}
      <div className={conflictStyles.choice}>
        <Button onClick={answer}>Save like this</Button>
        <span>or undo what was changed: nothing is lost</span>
      </div>
    </div>
  );
}
