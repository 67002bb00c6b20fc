// A movement family as a ladder: the easiest rung at the bottom, this movement's rung marked.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { signs } from "../api/figures";
import { Sign } from "./MovementDetail";
import styles from "./RungLadder.module.css";

export function RungLadder({
  ladder,
  at,
  bare = false,
}: {
  ladder: Schemas["Ladder"];
  at: string;
  bare?: boolean;
}) {
  const rungs = [...ladder.rungs].reverse();
  const drawn = useQuery({ ...signs(rungs), enabled: !bare });
  const signOf = (rung: string) => {
    const sign = drawn.data?.find((each) => each.movement === rung);
    return (
      sign && (
        <span className={styles.sign} aria-hidden>
          <Sign sign={sign} />
        </span>
      )
    );
  };
  return (
    <section className={styles.rungs} aria-label={`${ladder.name} ladder, hardest first`}>
      <h2>{ladder.name} ladder</h2>
      {!bare && (
        <p className={styles.word}>
          <b>Step up</b> {ladder.up}
        </p>
      )}
      <ol reversed>
        {rungs.map((rung) => (
          <li key={rung} aria-current={rung === at ? "true" : undefined}>
            <Link to={`/movements/${encodeURIComponent(rung)}`}>{rung}</Link>
            {signOf(rung)}
          </li>
        ))}
      </ol>
      {!bare && (
        <p className={styles.word}>
          <b>Step down</b> {ladder.down}
        </p>
      )}
    </section>
  );
}
