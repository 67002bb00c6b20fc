// What was noticed on the board, each with its place and its ways out.
import { Button } from "@mantine/core";
import { type RefObject, useState } from "react";
import type { Schemas } from "../../../api/client";
import fieldStyles from "../../../ui/fields.module.css";
import type { EditorHandle } from "./Editor";
import styles from "./Findings.module.css";
import { READ_AS } from "./ghostText";
import { UNKNOWN } from "./inlineFindings";

type Finding = Schemas["Finding"];
/** Whether this device wants the list open: what is wrong stands at its line as well. */
const OPEN = "pine-findings-open";
const KINDS = ["error", "question", "warning", "hint"] as const;
const RANK = { error: 0, question: 1, warning: 2, hint: 3 };

/** `2 errors · 3 hints` */
function counted(noticed: readonly Finding[]): string {
  return KINDS.map((kind) => [kind, noticed.filter((one) => one.severity === kind).length] as const)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => `${count} ${kind}${count === 1 ? "" : "s"}`)
    .join(" · ");
}

export function Findings({
  list,
  editor,
  onAdd,
}: {
  list: readonly Finding[];
  editor: RefObject<EditorHandle | null>;
  onAdd: (finding: Finding) => void;
}) {
  // How plain lines were read stands at the lines themselves.
  const noticed = list
    .filter((finding) => finding.code !== READ_AS)
    .sort((a, b) => RANK[a.severity] - RANK[b.severity] || a.line - b.line);
  const [open, setOpen] = useState(localStorage.getItem(OPEN) !== null);
  if (noticed.length === 0) return null;
  return (
    <details
      className={styles.noticed}
      open={open}
      onToggle={(event) => {
        const now = event.currentTarget.open;
        setOpen(now);
        if (now) localStorage.setItem(OPEN, "1");
        else localStorage.removeItem(OPEN);
      }}
    >
      <summary>{counted(noticed)}</summary>
      <ul className={styles.findings} aria-label="Findings">
        {noticed.map((finding) => (
          <li key={`${finding.line}:${finding.column}:${finding.code}:${finding.message}`}>
            <span data-severity={finding.severity} role="img" aria-label={finding.severity} />
            <button
              type="button"
              className={`${fieldStyles.pick} ${styles.where} num`}
              onClick={() => editor.current?.goTo(finding.line)}
            >
              line {finding.line}
            </button>
            <span>{finding.message}</span>
            <span className={styles.repairs}>
              {finding.repairs.map((repair) => (
                <Button
                  key={repair.label}
                  size="compact-sm"
                  variant="default"
                  onClick={() => editor.current?.repair(repair)}
                >
                  {repair.label}
                </Button>
              ))}
              {finding.meant && (
                <Button
                  size="compact-sm"
                  variant="subtle"
                  title="Keep it as it is, and do not say this again for this piece"
                  onClick={() => finding.meant && editor.current?.repair(finding.meant)}
                >
                  {finding.meant.label}
                </Button>
              )}
              {finding.code === UNKNOWN && (
                <Button size="compact-sm" variant="default" onClick={() => onAdd(finding)}>
                  add it to the library
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
