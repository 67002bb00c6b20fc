// One score on the sheet: typed, read back, kept, never lost.
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import type { Refusal, Schemas } from "../../api/client";
import { Doubt } from "./Doubt";
import { type Entry, newRequestKey, read, send } from "./entries";

type ScoreOut = Schemas["ScoreOut"];

const RETRY_MS = 4000;

export function Cell({
  date,
  piece,
  name,
  person,
  version,
  kept,
  place,
  onMove,
  onTier,
  onTrack,
}: {
  date: string;
  piece: Schemas["SheetPiece"];
  name: string;
  person: number;
  version: { tier: number; track: number };
  kept?: ScoreOut;
  place: string;
  onMove: (by: number) => void;
  onTier: (tier: number) => void;
  onTrack: () => void;
}) {
  const client = useQueryClient();
  const shown = kept?.display ?? "";
  const [typed, setTyped] = useState<string | null>(null);
  const [words, setWords] = useState("");
  const [state, setState] = useState<"quiet" | "refused" | "waiting">("quiet");
  const pending = useRef<Entry | null>(null);
  const overruled = useRef<number | null>(null);
  // The sheet is live: what is replaced is what stood here when the typing began.
  const seen = useRef(0);
  const [settled] = useDebouncedValue(typed, 150);
  const value = typed ?? shown;
  const changed = typed !== null && typed.trim() !== shown;

  const reading = useQuery({
    queryKey: ["read", date, piece.key, person, settled, version.tier, version.track],
    queryFn: () =>
      read(date, piece.key, {
        entered: settled ?? "",
        tier: version.tier,
        track: version.track,
        person_id: person,
      }),
    enabled: changed && Boolean(settled?.trim()),
    staleTime: 1000,
    retry: false,
  });
  const current = changed && settled === typed ? reading.data : undefined;
  const problem = current?.score.problems[0];

  const deliver = async (entry: Entry) => {
    pending.current = entry;
    setState("waiting");
    try {
      const answer = await send(date, entry);
      pending.current = null;
      overruled.current = null;
      seen.current = answer?.version ?? 0;
      setState("quiet");
      setWords(answer?.reading ?? "");
      setTyped((now) => (now?.trim() === entry.entered.trim() ? null : now));
      await client.invalidateQueries({ queryKey: ["sheet", date] });
      client.invalidateQueries({ queryKey: ["standings", date] });
    } catch (error) {
      const refusal = error as Refusal;
      if (refusal.status === 409) {
        const newer = refusal.newer as ScoreOut | null;
        overruled.current = newer?.version ?? 0;
        pending.current = null;
        setState("refused");
        setWords(`${refusal.message}. Enter again replaces it, Esc takes it.`);
        client.invalidateQueries({ queryKey: ["sheet", date] });
      } else if (refusal.status === 422 || refusal.status === 404) {
        pending.current = null;
        setState("refused");
        setWords(refusal.message);
      } else {
        setWords("Not sent yet. It is kept here and tried again.");
        window.setTimeout(() => pending.current === entry && deliver(entry), RETRY_MS);
      }
    }
  };

  /** Send what is typed; true unless it is known to be refused. */
  const keep = (): boolean => {
    if (!changed || typed === null || pending.current) return true;
    if (problem && typed.trim()) {
      setState("refused");
      setWords(problem);
      return false;
    }
    deliver({
      key: piece.key,
      person,
      entered: typed,
      tier: version.tier,
      track: version.track,
      version: overruled.current ?? seen.current,
      requestKey: newRequestKey(),
    });
    return true;
  };

  const back = () => {
    setTyped(null);
    setWords("");
    setState("quiet");
    overruled.current = null;
  };

  useEffect(() => {
    const guard = (event: BeforeUnloadEvent) => {
      if (pending.current) event.preventDefault();
    };
    window.addEventListener("beforeunload", guard);
    return () => window.removeEventListener("beforeunload", guard);
  }, []);

  const press = (event: React.KeyboardEvent) => {
    if (event.altKey && /^[1-9]$/.test(event.key)) {
      event.preventDefault();
      onTier(Number(event.key) - 1);
    } else if (event.altKey && event.key.toLowerCase() === "t") {
      event.preventDefault();
      onTrack();
    } else if (event.key === "Enter") {
      event.preventDefault();
      if (keep()) onMove(event.shiftKey ? -1 : 1);
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (keep()) onMove(event.key === "ArrowDown" ? 1 : -1);
    } else if (event.key === "Escape") {
      back();
    }
  };

  const rank = current ? current.rank : changed ? null : kept?.rank;
  const line =
    state === "quiet" && current
      ? (problem ?? current.score.doubt ?? current.score.reading ?? "")
      : words || (kept?.rank ? "" : kept?.reading);
  return (
    <div className="cell">
      <input
        value={value}
        data-cell={place}
        data-state={state === "quiet" && problem ? "refused" : state}
        aria-label={`${piece.title}, ${name}`}
        aria-invalid={state === "refused" || Boolean(problem)}
        placeholder={piece.example}
        autoComplete="off"
        onChange={(event) => {
          if (typed === null) seen.current = kept?.version ?? 0;
          setTyped(event.target.value);
          setWords("");
          setState("quiet");
        }}
        onFocus={(event) => event.target.select()}
        onKeyDown={press}
        onBlur={keep}
      />
      <span className="cell-rank num" data-tentative={changed || undefined}>
        {rank ? `#${rank}` : ""}
      </span>
      {!changed && kept && kept.standing !== "fine" && <Doubt date={date} score={kept} />}
      {line && (
        <p className="cell-words" data-state={problem ? "refused" : state} role="status">
          {line}
        </p>
      )}
    </div>
  );
}
