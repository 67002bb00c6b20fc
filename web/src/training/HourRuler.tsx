// The class hour as one strip to scale: pieces, windows and rests true to time.
import { useState } from "react";
import type { Schemas } from "../api/client";
import { minutes } from "../ui/dates";
import styles from "./HourRuler.module.css";

type Outline = Schemas["Outline"];
type PieceOutline = Schemas["PieceOutline"];

const MAX_TICKS = 90;

function lengthText(piece: PieceOutline): string {
  const heats = piece.heats > 1 ? `, ${piece.heats} heats` : "";
  return `${spanText(piece)}${heats}`;
}

function spanText(piece: PieceOutline): string {
  const { low_s, high_s, rough } = piece.length;
  if (piece.possible_s) return `${minutes(low_s)}, up to ${minutes(piece.possible_s)}`;
  if (!rough) return minutes(low_s);
  const low = Math.round(low_s / 60);
  const high = Math.round(high_s / 60);
  return low === high ? `about ${low} min` : `${low}–${high} min`;
}

function middle(piece: PieceOutline): number {
  return (piece.length.low_s + piece.length.high_s) / 2;
}

/** The inner life of a timed piece: its windows and rests, unless they are too many to see. */
function Windows({ piece }: { piece: PieceOutline }) {
  const segments = piece.clock.segments;
  const total = piece.clock.total_s;
  // In heats the windows come again for each of them: the ruler shows the heats instead.
  if (!total || piece.heats > 1) return null;
  if (segments.length < 2 || segments.length > MAX_TICKS) return null;
  return (
    <span className={styles.windows} aria-hidden>
      {segments.map((segment) => (
        <i
          key={segment.start_s}
          data-kind={segment.kind}
          data-member={segment.member ?? undefined}
          style={{ width: `${((segment.length_s ?? 0) / total) * 100}%` }}
        />
      ))}
    </span>
  );
}

export function HourRuler({
  outline,
  selected,
  onSelect,
  slim = false,
  bare = false,
  of = "",
}: {
  outline: Outline;
  selected?: string | null;
  onSelect?: (key: string) => void;
  slim?: boolean;
  /** The strip alone, for a list of days. */
  bare?: boolean;
  /** Whose hour it is, where several are listed. */
  of?: string;
}) {
  const [open, setOpen] = useState(false);
  const span = Math.max(outline.class_s, outline.planned_high_s, 600);
  const percent = (seconds: number) => `${(seconds / span) * 100}%`;
  const step = span > 5400 ? 600 : 300;
  const marks = Array.from({ length: Math.floor(span / step) + 1 }, (_, i) => i * step);
  const last = outline.pieces.at(-1);
  const end = last ? last.start_s + middle(last) : 0;
  const spare = outline.class_s - end;
  return (
    <section
      className={styles.ruler}
      data-slim={slim || undefined}
      data-bare={bare || undefined}
      data-open={open || undefined}
      aria-label={of ? `The class hour of ${of}` : "The class hour"}
    >
      {!bare && (
        // On a phone the hour is a thin strip until it is touched.
        <button
          type="button"
          className={styles.opener}
          aria-expanded={open}
          aria-label={open ? "Close the class hour" : "Open the class hour"}
          onClick={() => setOpen(!open)}
        />
      )}
      <div className={styles.scale} aria-hidden>
        {marks.map((mark) => (
          <span key={mark} style={{ left: percent(mark) }}>
            {mark / 60}
          </span>
        ))}
      </div>
      <div className={styles.strip}>
        {outline.pieces.map((piece) => (
          <button
            type="button"
            key={piece.key}
            className={styles.piece}
            data-role={piece.role}
            data-rough={piece.length.rough || undefined}
            aria-pressed={selected === piece.key}
            aria-label={`${piece.title} ${lengthText(piece)}, ${piece.format}`}
            title={`${piece.title} · ${piece.format} · ${lengthText(piece)}`}
            disabled={!onSelect}
            onClick={() => onSelect?.(piece.key)}
            style={{ left: percent(piece.start_s), width: percent(middle(piece)) }}
          >
            <span className={styles.name}>{piece.title} </span>
            <span className={`${styles.length} num`}>{lengthText(piece)}</span>
            <Windows piece={piece} />
            {Array.from({ length: piece.heats - 1 }, (_, at) => (
              // Where one heat ends and the next begins.
              <span
                key={at}
                className={styles.heat}
                style={{ left: `${((at + 1) / piece.heats) * 100}%` }}
                aria-hidden
              />
            ))}
          </button>
        ))}
        {outline.pieces.map(
          (piece) =>
            piece.brief_s > 0 && (
              <span
                key={`brief ${piece.key}`}
                className={styles.brief}
                style={{
                  left: percent(piece.start_s - piece.brief_s),
                  width: percent(piece.brief_s),
                }}
                title={`${minutes(piece.brief_s)} to explain ${piece.explains.join(", ")}`}
                aria-hidden
              />
            ),
        )}
        {outline.pieces.map(
          (piece) =>
            piece.possible_s && (
              <span
                key={`possible ${piece.key}`}
                className={styles.possible}
                style={{
                  left: percent(piece.start_s + piece.length.low_s),
                  width: percent(piece.possible_s - piece.length.low_s),
                }}
                title={`${piece.title} may go on to ${minutes(piece.possible_s)}`}
                aria-hidden
              />
            ),
        )}
        {spare > 30 && (
          <span
            className={styles.spare}
            style={{ left: percent(end), width: percent(spare) }}
            aria-hidden
          >
            {spare > span * 0.07 && "spare"}
          </span>
        )}
        {outline.planned_high_s > outline.class_s && (
          <span
            className={styles.bell}
            style={{ left: percent(outline.class_s) }}
            title="end of class"
          />
        )}
      </div>
    </section>
  );
}
