// On the floor, at its first use: what a tap does and what a long press does.
import { Button } from "@mantine/core";
import { useState } from "react";
import styles from "./Floor.module.css";

const SEEN = "pine-floor-explained";

export function FloorHelp() {
  const [shown, setShown] = useState(() => localStorage.getItem(SEEN) === null);
  const close = () => {
    localStorage.setItem(SEEN, "1");
    setShown(false);
  };
  if (!shown) {
    return (
      <Button variant="default" aria-label="How the floor works" onClick={() => setShown(true)}>
        ?
      </Button>
    );
  }
  return (
    <section className={styles.help} aria-label="How the floor works">
      <ul>
        <li>
          <b>Tap a name</b>: their round is over, or they have finished.
        </li>
        <li>
          <b>Press and hold</b>: take the last tap back.
        </li>
        <li>
          <b>⋯</b>: write a number, or say that they stop early.
        </li>
      </ul>
      <Button onClick={close}>Close</Button>
    </section>
  );
}
