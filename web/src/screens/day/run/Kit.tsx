// Kit to lay out before a class, for as many as are here or come.
import type { Schemas } from "../../../api/client";
import styles from "./Floor.module.css";

export function Kit({ held }: { held: Schemas["ClassHeld"] }) {
  const needed = (held.kit ?? []).filter((one) => one.need > 0);
  if (needed.length === 0) return null;
  return (
    <p className={styles.kit}>
      <b>Set up</b>
      {needed.map((one) => (
        <span key={one.name} data-short={one.short || undefined}>
          {one.words}
          {one.short && <strong> ({one.there} there)</strong>}
        </span>
      ))}
    </p>
  );
}
