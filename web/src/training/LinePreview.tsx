// The figure of the line that is pointed at, small, out of the way of the hand.
import { useQuery } from "@tanstack/react-query";
import { figure } from "../api/figures";
import { Figure } from "./Figure";
import styles from "./MovementDetail.module.css";
import type { Shows } from "./movementDetail";

export function LinePreview({ shows }: { shows: Shows }) {
  const [name = ""] = shows.movements;
  const found = useQuery(figure(name, shows.tempo || undefined));
  if (!found.data) return null;
  return (
    <aside className={styles.pointed} aria-label={`${name}, shown`}>
      <Figure cycle={found.data} />
      <span>{name}</span>
    </aside>
  );
}
