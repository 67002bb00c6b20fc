// An empty day: typed, built from formats, drafted, or started from an earlier one.
import { Button } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import { DraftDay } from "./DraftDay";
import { Earlier } from "./Earlier";
import styles from "./StartOptions.module.css";

export function StartOptions({
  date,
  programmes,
  words,
  kept,
  onText,
  onPiece,
}: {
  date: string;
  programmes: readonly string[];
  words: Schemas["BoardWords"] | undefined;
  kept: readonly Schemas["Kept"][];
  onText: (text: string) => void;
  onPiece: (piece: string) => void;
}) {
  return (
    <div className={styles.begin}>
      <p>Nothing is written for this day. Four ways to begin:</p>
      <div className={styles.ways}>
        <section aria-labelledby="begin-typing">
          <h2 id="begin-typing">Type it</h2>
          <p>As on the whiteboard, for instance:</p>
          <pre>{words?.example}</pre>
          <Button
            size="compact-sm"
            disabled={!words}
            onClick={() => words && onText(words.example)}
          >
            Write over this example
          </Button>
        </section>
        <section aria-labelledby="begin-building">
          <h2 id="begin-building">Build it</h2>
          <ul>
            {kept.map((piece) => (
              <li key={`kept ${piece.id}`}>
                <button type="button" title={piece.text} onClick={() => onPiece(piece.text)}>
                  {piece.name} <small>kept by name</small>
                </button>
              </li>
            ))}
            {words?.templates.map((template) => (
              <li key={template.label}>
                <button type="button" title={template.text} onClick={() => onPiece(template.text)}>
                  {template.label} <small>{template.when}</small>
                </button>
              </li>
            ))}
          </ul>
        </section>
      </div>
      <section aria-labelledby="begin-draft">
        <h2 id="begin-draft">Draft it</h2>
        <p>
          Proposed from the gym's boards, kit and people, and from what was done before. Nothing is
          saved until you use one.
        </p>
        <DraftDay date={date} onText={onText} />
      </section>
      <section aria-labelledby="begin-earlier">
        <h2 id="begin-earlier">Start from an earlier day</h2>
        <Earlier date={date} programmes={programmes} onDay={onText} onPiece={onPiece} />
      </section>
    </div>
  );
}
