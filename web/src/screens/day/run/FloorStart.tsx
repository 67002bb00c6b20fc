// The floor before a piece is on the clock: the classes of the day, then the pieces to start.
import { Button } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import styles from "./Floor.module.css";

type Held = Schemas["ClassHeld"];

/** How long a piece is by its clock, or about how long it is predicted to be. */
function lengthOf(piece: Schemas["PieceOutline"]): string {
  const minutes = (seconds: number) => Math.max(1, Math.round(seconds / 60));
  const { low_s, high_s, rough } = piece.length;
  const [low, high] = [minutes(low_s), minutes(high_s)];
  return low === high ? `${rough ? "about " : ""}${low} min` : `${low}–${high} min`;
}

export function FloorStart({
  classes,
  held,
  people,
  pieces,
  onClass,
  onPiece,
  onClose,
}: {
  classes: readonly Held[];
  held: Held | null;
  people: readonly Schemas["FloorPerson"][];
  pieces: readonly Schemas["PieceOutline"][];
  onClass: (start: string) => void;
  onPiece: (key: string) => void;
  onClose: () => void;
}) {
  const careful = people.filter((one) => held?.here.includes(one.id) && one.limits.length > 0);
  return (
    <section className={`${styles.floor} ${styles.start}`} aria-label="On the floor">
      <div className={styles.bar}>
        <h1>
          {held ? `Class at ${held.start.slice(0, 5)}: ${held.here.length} here` : "Which class?"}
        </h1>
        <Button className={styles.close} variant="default" onClick={onClose}>
          Back to the desk
        </Button>
      </div>
      {careful.length > 0 && (
        <ul className={styles.limits}>
          {careful.map((one) => (
            <li key={one.id}>
              <b>{one.name}</b> {one.limits.join(", ")}
            </li>
          ))}
        </ul>
      )}
      <ul className={styles.tiles}>
        {held
          ? pieces.map((piece) => (
              <li key={piece.key} className={styles.tile}>
                <button type="button" onClick={() => onPiece(piece.key)}>
                  <b>{piece.title}</b>
                  {piece.format} · {lengthOf(piece)}
                </button>
              </li>
            ))
          : classes.map((one) => (
              <li key={one.start} className={styles.tile}>
                <button type="button" onClick={() => onClass(one.start)}>
                  <b className="num">{one.start.slice(0, 5)}</b>
                  {one.id ? `${one.here.length} here` : "open it"}
                </button>
              </li>
            ))}
      </ul>
    </section>
  );
}
