// The floor before a piece is on the clock: the classes of the day, then the pieces to start.
import { Button } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import styles from "./Floor.module.css";
import { Kit } from "./Kit";
import { Limits, PieceTiles } from "./PieceTiles";

type Held = Schemas["ClassHeld"];

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
  return (
    <section className={`${styles.floor} ${styles.start}`} aria-label="Floor mode">
      <div className={styles.bar}>
        <h1>
          {held ? `Class at ${held.start.slice(0, 5)}: ${held.here.length} here` : "Which class?"}
        </h1>
        <Button className={styles.close} variant="default" onClick={onClose}>
          Exit floor mode
        </Button>
      </div>
      {held && <Limits people={people} here={held.here} />}
      {held && <Kit held={held} />}
      {held ? (
        <PieceTiles pieces={pieces} onPiece={onPiece} />
      ) : (
        <ul className={styles.tiles}>
          {classes.map((one) => (
            <li key={one.start} className={styles.tile}>
              <button type="button" className={styles.opener} onClick={() => onClass(one.start)}>
                <b className="num">{one.start.slice(0, 5)}</b>
                {one.id ? `${one.here.length} here` : "open it"}
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
