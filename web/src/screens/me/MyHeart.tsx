// What my strap says now, beside what the piece on the clock asks of me.
import { useEffect, useState } from "react";
import { useLive } from "../../api/live";
import styles from "./MyHeart.module.css";

type Said = {
  bpm: number;
  effort?: "easy" | "hard";
  low?: number;
  high?: number;
  where?: "below" | "in" | "above";
};

/** A value older than this is no longer what the heart does. */
const STALE_MS = 5000;

const WORDS = {
  easy: {
    below: "below the range: easy enough",
    in: "in the range of easy",
    above: "above the range: slow down until you can talk",
  },
  hard: {
    below: "below the range of hard",
    in: "in the range of hard",
    above: "above the range: back off if it does not feel right",
  },
};

export function MyHeart() {
  const [said, setSaid] = useState<Said | null>(null);
  useLive("/api/live", { heart: (data) => setSaid(data as Said) });
  useEffect(() => {
    if (!said) return;
    const timer = window.setTimeout(() => setSaid(null), STALE_MS);
    return () => window.clearTimeout(timer);
  }, [said]);
  if (!said) return <p className={styles.beating}>The strap is not heard.</p>;
  const { effort, where } = said;
  return (
    <p className={styles.beating} data-where={where}>
      <b className="num">{said.bpm}</b>
      <span>
        beats a minute
        {effort && where && (
          <>
            , {WORDS[effort][where]}{" "}
            <span className="num">
              ({said.low}–{said.high})
            </span>
          </>
        )}
      </span>
    </p>
  );
}
