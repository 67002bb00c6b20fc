// A movement shown: its figure from the server, its faults, the rung above and the rung below.
import { TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { figure, signs } from "../api/figures";
import { Drawn, Faults, Figure } from "./Figure";
import { boxOf } from "./figureLines";
import styles from "./MovementDetail.module.css";

/** A turning position, small; it stands beside a name that says what it is. */
export function Sign({ sign }: { sign: Schemas["Sign"] }) {
  return (
    <Drawn
      at={sign.frame}
      view={sign.view}
      scene={sign.scene ?? []}
      box={boxOf([sign.frame], sign.scene ?? [])}
      label={sign.movement}
    />
  );
}

function Neighbours({ ladder, at }: { ladder: Schemas["Ladder"]; at: string }) {
  const place = ladder.rungs.indexOf(at);
  const [below, above] = [ladder.rungs[place - 1], ladder.rungs[place + 1]];
  const names = [below, above].filter((name): name is string => Boolean(name));
  const found = useQuery({ ...signs(names), enabled: names.length > 0 });
  const one = (name: string | undefined, word: string) => {
    const sign = found.data?.find((each) => each.movement === name);
    return (
      name &&
      sign && (
        <Link to={`/movements/${encodeURIComponent(name)}`}>
          <Sign sign={sign} />
          <span>
            {word}: {name}
          </span>
        </Link>
      )
    );
  };
  if (place < 0 || names.length === 0) return null;
  return (
    <section className={styles.neighbours} aria-label="The rungs beside it">
      {one(below, "easier")}
      {one(above, "harder")}
    </section>
  );
}

const TEMPO = /^[0-9]{2}[0-9xX][0-9]$/;

export function ShownMovement({
  name,
  ladder,
}: {
  name: string;
  ladder: Schemas["Ladder"] | null;
}) {
  const [typed, setTyped] = useState("");
  const [tempo] = useDebouncedValue(typed.trim(), 300);
  const right = TEMPO.test(tempo);
  const found = useQuery(figure(name, right ? tempo.toUpperCase() : undefined));
  if (!found.data) return <div className={styles.room} aria-hidden />;
  return (
    <section className={styles.shown} aria-label="How it goes">
      <div className={styles.large}>
        <Figure key={tempo} cycle={found.data} tools />
        <TextInput
          size="xs"
          label="Tempo"
          placeholder="40X1"
          value={typed}
          error={tempo && !right && "Four figures: down, below, up, above; X is fast"}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
      </div>
      <div className={styles.beside}>
        <Faults cycle={found.data} />
        {ladder && <Neighbours ladder={ladder} at={name} />}
      </div>
    </section>
  );
}
