// Which line of sessions is looked at, where a gym writes more than one.
import { chooseProgramme, useProgramme } from "../api/programme";
import type { Named } from "../api/useLines";
import styles from "./Frame.module.css";

export function ProgrammeSwitch({
  lines,
  onChosen,
}: {
  lines: readonly Named[];
  /** Called once another programme is looked at. */
  onChosen?: () => void;
}) {
  const line = useProgramme();
  return (
    <select
      className={styles.programme}
      aria-label="Programme"
      value={line ?? ""}
      onChange={(event) => {
        chooseProgramme(Number(event.currentTarget.value) || null);
        onChosen?.();
      }}
    >
      {lines.map((one) => (
        <option key={one.line ?? "first"} value={one.line ?? ""}>
          {one.name}
        </option>
      ))}
    </select>
  );
}
