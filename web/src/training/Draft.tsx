// A drafted board: its text, its minutes, why each line is as it is, and what to do with it.
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import styles from "./Draft.module.css";

export type Drafted = Schemas["DraftOut"];

/** One draft under a heading; `folded` hides its board until it is asked for. */
export function Draft({
  draft,
  heading,
  folded = false,
  children,
}: {
  draft: Drafted;
  heading?: string;
  folded?: boolean;
  children: ReactNode;
}) {
  const lines = draft.text.split("\n");
  const board = <pre>{draft.text}</pre>;
  return (
    <>
      <h3>
        {heading && `${heading}: `}
        {draft.title || "Draft"}{" "}
        <small className="num">about {Math.round(draft.minutes.p50)} min</small>
      </h3>
      {folded ? (
        <details>
          <summary>Board</summary>
          {board}
        </details>
      ) : (
        board
      )}
      <details>
        <summary>Why</summary>
        <ul className={styles.reasons}>
          {draft.reasons.map((each) => (
            <li key={`${each.line} ${each.reason}`}>
              <b>{lines[each.line - 1]?.replace(/^#+ /, "")}</b>: {each.reason}
              {each.source && <small> ({each.source})</small>}
            </li>
          ))}
        </ul>
      </details>
      <div className={styles.acts}>{children}</div>
    </>
  );
}

/** Drafts side by side, as many as fit. */
export function Drafts({ label, children }: { label: string; children: ReactNode }) {
  return (
    <ul className={styles.drafts} aria-label={label}>
      {children}
    </ul>
  );
}
