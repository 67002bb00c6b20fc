// How long a heart was in the range that pieces asked for, each with its words.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { myHearts } from "../api/queries";
import { spoken } from "../ui/dates";
import styles from "./HeartTimes.module.css";

const FIRST = 4;

/** Below, in and above as lengths of one bar; what lies outside is hatched. */
function Bar({ time }: { time: Schemas["TimeIn"] }) {
  return (
    <span className={styles.bar} aria-hidden>
      <i data-is="below" style={{ flexGrow: time.below }} />
      <i data-is="in" style={{ flexGrow: time.within }} />
      <i data-is="above" style={{ flexGrow: time.above }} />
    </span>
  );
}

export function HeartTimes() {
  const found = useQuery(myHearts);
  const [all, setAll] = useState(false);
  if (!found.data || found.data.length === 0) return null;
  const shown = all ? found.data : found.data.slice(0, FIRST);
  return (
    <section className={styles.times} aria-label="Heart">
      <h2>Heart</h2>
      <ul>
        {shown.map((one) => (
          <li key={`${one.date}/${one.piece}`}>
            <span>
              <b>{one.piece}</b> <small>{spoken(one.date)}</small>
            </span>
            <Bar time={one.time} />
            <span>
              {one.effort} {one.low}–{one.high}: {one.time.words}
            </span>
          </li>
        ))}
      </ul>
      {found.data.length > FIRST && (
        <Button variant="subtle" onClick={() => setAll(!all)}>
          {all ? "Only the latest" : `All ${found.data.length}`}
        </Button>
      )}
      <p>
        <small>
          Seconds a strap was heard while the class's clock ran. It tells whether easy was easy, and
          nothing of your health.
        </small>
      </p>
    </section>
  );
}
