// Logging my own score: typed, read back, kept, and where it puts me.
import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, lazy, Suspense, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { keep as enqueue, useWaiting } from "../../offline/outbox";
import { cellOf, newKey } from "../../offline/queue";
import styles from "./Log.module.css";
import { MyStrip } from "./MyStrip";

// Few scores are ever doubted.
const ScoreQuestion = lazy(() =>
  import("./ScoreQuestion").then((m) => ({ default: m.ScoreQuestion })),
);

type ScoreOut = Schemas["ScoreOut"];

export function Log({
  date,
  piece,
  tier,
  track,
  tiers,
  kept,
  me,
}: {
  date: string;
  piece: Schemas["SheetPiece"];
  tier: number;
  track: number;
  tiers: readonly string[];
  kept?: ScoreOut;
  me: number;
}) {
  const cell = `score/${date}/${piece.key}/${me}`;
  const entry = useWaiting(me).find((one) => one.kind === "score" && cellOf(one) === cell);
  const waits = entry?.kind === "score" ? entry : undefined;
  const [typed, setTyped] = useState<string | null>(null);
  const written = typed ?? waits?.body.entered ?? "";
  const [settled] = useDebouncedValue(typed ?? "", 250);
  const path = { date, key: piece.key };
  const reading = useQuery({
    queryKey: [...keys.myDay(date), "read", piece.key, settled, tier, track],
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/me/days/{date}/pieces/{key}/read", {
          signal,
          params: { path },
          body: { entered: settled, tier, track },
        }),
      ),
    enabled: Boolean(settled.trim()),
    retry: false,
  });
  const heard = typed === settled && typed.trim() ? reading.data : undefined;

  const keep = (event: FormEvent) => {
    event.preventDefault();
    if (!written.trim()) return;
    const over = waits?.refused?.newer;
    enqueue(me, {
      kind: "score",
      date,
      key: piece.key,
      person: me,
      mine: true,
      body: {
        entered: written,
        tier,
        track,
        version: over?.version ?? waits?.body.version ?? kept?.version ?? 0,
        request_key: newKey(),
      },
    });
    setTyped(null);
  };

  const told = typed === null ? waits?.refused?.words : undefined;
  const refused = told ?? heard?.score.problems[0];
  return (
    <div className={styles.log}>
      <form onSubmit={keep}>
        <TextInput
          label={kept ? `Correct my score (${piece.kind})` : `My score (${piece.kind})`}
          placeholder={piece.example}
          value={written}
          maxLength={200}
          onChange={(event) => setTyped(event.currentTarget.value)}
          error={refused}
          autoComplete="off"
        />
        <Button type="submit" disabled={!written.trim()}>
          Save
        </Button>
      </form>
      {heard && !refused && (
        <p className={styles.words} role="status">
          {heard.score.doubt && <span className={styles.doubt}>{heard.score.doubt}. </span>}
          {heard.score.reading ?? `Read as ${heard.score.display}`}
          {heard.rank ? `: place ${heard.rank} in ${tiers[tier]}` : ""}
        </p>
      )}
      {waits && !waits.refused && (
        <p className={styles.words} role="status">
          Saved on this device. It is sent by itself.
        </p>
      )}
      {kept?.pacing && <p className={styles.words}>{kept.pacing}</p>}
      {kept && kept.standing !== "fine" && (
        <Suspense>
          <ScoreQuestion date={date} score={kept} />
        </Suspense>
      )}
      <MyStrip date={date} pieceKey={piece.key} me={me} onEntry={setTyped} />
      {kept && (
        <p className={styles.place}>
          <b className="num">{kept.display}</b>{" "}
          {kept.rank ? `Place ${kept.rank} in ${tiers[kept.tier]}` : ""}
        </p>
      )}
    </div>
  );
}
