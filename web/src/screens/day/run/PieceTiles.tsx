// The pieces to start, a large tile each, and what limits who is here.
import type { Schemas } from "../../../api/client";
import styles from "./Floor.module.css";

/** The length of a piece by its clock, or about its predicted one; empty where its
 * format says it already (AMRAP 20:00). */
function lengthOf(piece: Schemas["PieceOutline"]): string {
  const minutes = (seconds: number) => Math.max(1, Math.round(seconds / 60));
  const { low_s, high_s, rough } = piece.length;
  const [low, high] = [minutes(low_s), minutes(high_s)];
  if (!rough && low === high && piece.format.endsWith(` ${low}:00`)) return "";
  return low === high ? `${rough ? "about " : ""}${low} min` : `${low}–${high} min`;
}

export function Limits({
  people,
  here,
}: {
  people: readonly Schemas["FloorPerson"][];
  here: readonly number[];
}) {
  const careful = people.filter((one) => here.includes(one.id) && one.limits.length > 0);
  if (careful.length === 0) return null;
  return (
    <ul className={styles.limits} aria-label="Limits of who is here">
      {careful.map((one) => (
        <li key={one.id}>
          <b>{one.name}</b> {one.limits.join(", ")}
        </li>
      ))}
    </ul>
  );
}

export function PieceTiles({
  pieces,
  chosen,
  onPiece,
}: {
  pieces: readonly Schemas["PieceOutline"][];
  /** The one that is chosen on the ruler. */
  chosen?: string | null;
  onPiece: (key: string) => void;
}) {
  return (
    <ul className={styles.tiles}>
      {pieces.map((piece) => (
        <li key={piece.key} className={styles.tile} data-chosen={piece.key === chosen || undefined}>
          <button type="button" className={styles.opener} onClick={() => onPiece(piece.key)}>
            <b>{piece.title}</b>
            {[piece.format, lengthOf(piece)].filter(Boolean).join(" · ")}
          </button>
        </li>
      ))}
    </ul>
  );
}
