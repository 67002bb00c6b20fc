// One score on the sheet: typed, read back, kept, never lost. It waits in the outbox, not here.
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useMyId } from "../../../api/useMyId";
import { onLanded } from "../../../offline/delivered";
import { keep as enqueue, useWaitingScore } from "../../../offline/outbox";
import { cellOf, drop, newKey, read } from "../../../offline/queue";
import { readEntry } from "../../../training/entries";
import { undoable } from "../../../ui/undoable";
import wordStyles from "../../../ui/words.module.css";
import styles from "./Cell.module.css";
import { ScoreCheck } from "./ScoreCheck";

type ScoreOut = Schemas["ScoreOut"];
const CONFLICT = 409;

/** What a cell asks of its sheet; the same object as long as the sheet is there. */
export type Acts = {
  at: (piece: string) => void;
  move: (column: number, row: number) => void;
  tier: (person: number, tier: number) => void;
  track: (person: number) => void;
};

type Props = {
  date: string;
  piece: Schemas["SheetPiece"];
  name: string;
  person: number;
  tier: number;
  track: number;
  kept?: ScoreOut;
  column: number;
  row: number;
  acts: Acts;
};

/** Hundreds of them stand on a sheet: only the one that changes is drawn anew. */
export const Cell = memo(function Cell(props: Props) {
  const { date, piece, name, person, tier, track, kept, column, row, acts } = props;
  const me = useMyId();
  const cell = `score/${date}/${piece.key}/${person}`;
  const entry = useWaitingScore(me, cell);
  const waits = entry?.kind === "score" ? entry : undefined;
  const refused = waits?.refused;
  const shown = kept?.display ?? "";
  const stood = waits ? waits.body.entered : shown;
  const [typed, setTyped] = useState<string | null>(null);
  const [words, setWords] = useState("");
  const [known, setKnown] = useState(false);
  // The sheet is live: what is replaced is what stood here when the typing began.
  const seen = useRef(0);
  const [settled] = useDebouncedValue(typed, 150);
  const value = typed ?? stood;
  const changed = typed !== null && typed.trim() !== shown;

  const reading = useQuery({
    queryKey: [...keys.reading(date), piece.key, person, settled, tier, track],
    queryFn: ({ signal }) =>
      readEntry(
        date,
        piece.key,
        {
          entered: settled ?? "",
          tier,
          track,
          person_id: person,
        },
        signal,
      ),
    enabled: changed && Boolean(settled?.trim()),
    staleTime: 1000,
    retry: false,
  });
  const current = changed && settled === typed ? reading.data : undefined;
  const problem = current?.score.problems[0];

  useEffect(
    () =>
      onLanded(({ one, got }) => {
        if (one.kind !== "score" || cellOf(one) !== cell) return;
        setWords((got as ScoreOut | null)?.reading ?? "");
      }),
    [cell],
  );

  /** Say that a score was removed, and offer to put it back. */
  const removed = () => {
    const was = kept?.entered ?? "";
    undoable(`Removed ${name}'s score ${shown}.`, () => {
      const unsent = read().find((one) => one.who === me && cellOf(one) === cell);
      if (unsent) {
        drop(unsent.id);
        return;
      }
      enqueue(me, {
        kind: "score",
        date,
        key: piece.key,
        person,
        mine: false,
        body: {
          entered: was,
          tier: kept?.tier ?? tier,
          track: kept?.track ?? track,
          version: 0,
          request_key: newKey(),
        },
      });
    });
  };

  /** Keep what is typed; true unless it is known to be refused. */
  const keep = (again = false): boolean => {
    const entered = typed ?? (again && refused ? waits.body.entered : null);
    if (entered === null || (!again && !changed)) return true;
    if (problem && entered.trim()) {
      setKnown(true);
      return false;
    }
    if (!entered.trim() && kept) removed();
    const replaced = refused?.status === CONFLICT ? (refused.newer?.version ?? 0) : undefined;
    enqueue(me, {
      kind: "score",
      date,
      key: piece.key,
      person,
      mine: false,
      body: {
        entered,
        tier,
        track,
        version: replaced ?? waits?.body.version ?? seen.current,
        request_key: newKey(),
      },
    });
    setTyped(null);
    setWords("");
    return true;
  };

  const back = () => {
    setTyped(null);
    setWords("");
    setKnown(false);
    if (refused && waits) drop(waits.id);
  };

  const press = (event: React.KeyboardEvent) => {
    if (event.altKey && /^[1-9]$/.test(event.key)) {
      event.preventDefault();
      acts.tier(person, Number(event.key) - 1);
    } else if (event.altKey && event.key.toLowerCase() === "t") {
      event.preventDefault();
      acts.track(person);
    } else if (event.key === "Enter") {
      event.preventDefault();
      if (keep(Boolean(refused))) acts.move(column, row + (event.shiftKey ? -1 : 1));
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (keep()) acts.move(column, row + (event.key === "ArrowDown" ? 1 : -1));
    } else if (event.key === "Escape") {
      back();
    }
  };

  const rank = current ? current.rank : changed || waits ? null : kept?.rank;
  const state =
    (problem && known) || (refused && typed === null) ? "refused" : waits ? "waiting" : "quiet";
  const ending = refused?.status === CONFLICT ? ". Enter again replaces it, Esc takes it." : "";
  const line =
    typed !== null && current
      ? (problem ?? current.score.doubt ?? current.score.reading ?? "")
      : refused && typed === null
        ? `${refused.words}${ending}`
        : waits && !navigator.onLine
          ? "Not sent yet. It is saved on this device and will be sent automatically."
          : words || (kept?.rank ? "" : kept?.reading);
  return (
    <div className={styles.cell}>
      <input
        value={value}
        data-cell={`${column}:${row}`}
        data-state={problem ? "refused" : state}
        aria-label={`${piece.title}, ${name}`}
        aria-invalid={state === "refused" || Boolean(problem)}
        autoComplete="off"
        maxLength={200}
        onChange={(event) => {
          if (typed === null) seen.current = kept?.version ?? 0;
          setTyped(event.target.value);
          setWords("");
          setKnown(false);
        }}
        onFocus={(event) => {
          event.target.select();
          acts.at(piece.key);
        }}
        onKeyDown={press}
        onBlur={() => keep()}
      />
      <span className={`${styles.rank} num`} data-tentative={changed || undefined}>
        {rank ? `#${rank}` : ""}
      </span>
      {!changed && !waits && kept && kept.standing !== "fine" && (
        <ScoreCheck date={date} score={kept} />
      )}
      {current?.meant && (
        <button
          type="button"
          className={styles.meant}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => {
            setTyped(current.meant ?? "");
            setKnown(false);
          }}
        >
          Did you mean <b className="num">{current.meant}</b>?
        </button>
      )}
      {line && (
        <p className={wordStyles.cellWords} data-state={problem ? "refused" : state} role="status">
          {line}
        </p>
      )}
    </div>
  );
});
