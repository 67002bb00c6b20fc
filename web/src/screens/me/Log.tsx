// Logging my own score: typed, read back, kept, and where it puts me.
import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../api/client";
import { newRequestKey } from "../day/score/entries";
import { MyStrip } from "./MyStrip";
import { Question } from "./Question";

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
  const client = useQueryClient();
  const [typed, setTyped] = useState("");
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  // One intent, one key: sending the same entry again after a lost answer lands once.
  const intent = useRef({ entered: "", key: "" });
  const [settled] = useDebouncedValue(typed, 250);
  const path = { date, key: piece.key };
  const reading = useQuery({
    queryKey: ["my-read", date, piece.key, settled, tier, track],
    queryFn: () =>
      ask(
        api.POST("/api/me/days/{date}/pieces/{key}/read", {
          params: { path },
          body: { entered: settled, tier, track },
        }),
      ),
    enabled: Boolean(settled.trim()),
    retry: false,
  });
  const heard = typed === settled && typed.trim() ? reading.data : undefined;

  const keep = async (event: FormEvent) => {
    event.preventDefault();
    if (!typed.trim()) return;
    setBusy(true);
    setProblem("");
    if (intent.current.entered !== typed) intent.current = { entered: typed, key: newRequestKey() };
    const body = {
      entered: typed,
      tier,
      track,
      version: kept?.version ?? 0,
      request_key: intent.current.key,
    };
    try {
      await ask(api.PUT("/api/me/days/{date}/pieces/{key}/score", { params: { path }, body }));
      setTyped("");
      intent.current = { entered: "", key: "" };
    } catch (error) {
      setProblem((error as Refusal).message);
    }
    await client.invalidateQueries({ queryKey: ["my-day", date] });
    await client.invalidateQueries({ queryKey: ["standings", date] });
    setBusy(false);
  };

  const refused = problem || heard?.score.problems[0];
  return (
    <div className="log">
      <form onSubmit={keep}>
        <TextInput
          label={kept ? `Correct my score (${piece.kind})` : `My score (${piece.kind})`}
          placeholder={piece.example}
          value={typed}
          onChange={(event) => setTyped(event.currentTarget.value)}
          error={refused}
          autoComplete="off"
        />
        <Button type="submit" loading={busy} disabled={!typed.trim()}>
          Keep
        </Button>
      </form>
      {heard && !refused && (
        <p className="log-words" role="status">
          {heard.score.doubt && <span className="log-doubt">{heard.score.doubt}. </span>}
          {heard.score.reading ?? `Read as ${heard.score.display}`}
          {heard.rank ? `: place ${heard.rank} in ${tiers[tier]}` : ""}
        </p>
      )}
      {kept?.pacing && <p className="log-words">{kept.pacing}</p>}
      {kept && kept.standing !== "fine" && <Question date={date} score={kept} />}
      <MyStrip date={date} pieceKey={piece.key} me={me} onEntry={setTyped} />
      {kept && (
        <p className="log-place">
          <b className="num">{kept.display}</b>{" "}
          {kept.rank ? `Place ${kept.rank} in ${tiers[kept.tier]}` : ""}
        </p>
      )}
    </div>
  );
}
