// The board as athletes read it.
import { useContext } from "react";
import type { Schemas } from "../api/client";
import wordStyles from "../ui/words.module.css";
import styles from "./Board.module.css";
import { ShowingContext } from "./movementDetail";

type LineView = Schemas["LineView"];
type PieceView = Schemas["PieceView"];
type TaskView = Schemas["TaskView"];

function Task({ task }: { task: TaskView }) {
  const { press } = useContext(ShowingContext);
  const shows = { movements: task.shows, tempo: task.tempo };
  return (
    <span className={styles.task}>
      <b className="num">{task.amount}</b>{" "}
      {press && task.shows.length > 0 ? (
        <button
          type="button"
          className={styles.shows}
          title="How it goes"
          onClick={() => press(shows)}
        >
          {task.movement}
        </button>
      ) : (
        <span>{task.movement}</span>
      )}
      {!task.known && <em className={styles.new}>new movement</em>}
      {task.details.map((detail) => (
        <span key={detail} className={styles.detail}>
          {detail}
        </span>
      ))}
      {task.load && <span className={`${styles.load} num`}>{task.load}</span>}
      {task.alternatives.map((other) => (
        <span key={other} className={styles.or}>
          or {other}
        </span>
      ))}
      {task.loading && <span className={`${styles.why} num`}>{task.loading}</span>}
      {task.reason && <span className={styles.why}>{task.reason}</span>}
      {task.note && <span className={styles.note}>{task.note}</span>}
    </span>
  );
}

function Line({
  line,
  label,
  onOpen,
}: {
  line: LineView;
  label?: string;
  onOpen?: (line: number) => void;
}) {
  const { point } = useContext(ShowingContext);
  const shown = line.tasks.find((task) => task.shows.length > 0);
  const aim = () => shown && point?.({ movements: shown.shows, tempo: shown.tempo });
  const leave = () => point?.(null);
  return (
    <li
      data-open={onOpen ? true : undefined}
      onPointerEnter={point && aim}
      onPointerLeave={point && leave}
      onFocus={point && aim}
      onBlur={point && leave}
    >
      {label && <span className={styles.lineLabel}>{label}</span>}
      {line.station && (
        <span className={`${styles.lineStation} num`} data-station>
          {line.station}
        </span>
      )}
      {line.rest ? (
        <span className={styles.rest}>rest</span>
      ) : (
        <span className={styles.lineTasks}>
          {line.tasks.map((task, index) => (
            // Tasks of a line have no name but their place.
            <Task key={index} task={task} />
          ))}
        </span>
      )}
      {onOpen && (
        <button
          type="button"
          className={styles.lineOpen}
          aria-label={`Change ${line.rest ? `rest, line ${line.line}` : line.tasks.map((task) => task.movement).join(" and ")}`}
          title="Change this line"
          onClick={() => onOpen(line.line)}
        />
      )}
    </li>
  );
}

export function Piece({
  piece,
  level = 3,
  arithmetic,
  selected,
  onOpenLine,
  tools,
  children,
}: {
  piece: PieceView;
  /** Of its heading: 3 under a heading for the session, 2 where the page's is all there is. */
  level?: 2 | 3;
  arithmetic?: string;
  selected?: boolean;
  onOpenLine?: (line: number) => void;
  tools?: React.ReactNode;
  children?: React.ReactNode;
}) {
  const Heading = level === 2 ? "h2" : "h3";
  return (
    <section className={styles.piece} data-role={piece.role} data-selected={selected || undefined}>
      <header>
        <Heading>
          <span className={styles.roleMark} data-role={piece.role} aria-hidden />
          {piece.title}
          {piece.title.toLowerCase() !== piece.role && (
            <span className={styles.role}>{piece.role}</span>
          )}
        </Heading>
        <p className={`${styles.format} num`}>{[piece.format, ...piece.modifiers].join(" · ")}</p>
        {tools}
      </header>
      {piece.before.length > 0 && (
        <ul className={styles.lines}>
          {piece.before.map((line) => (
            <Line key={line.line} line={line} label="first" onOpen={onOpenLine} />
          ))}
        </ul>
      )}
      {piece.blocks.map((block, index) => (
        <ul className={styles.lines} key={block[0]?.line ?? index}>
          {block.map((line) => (
            <Line key={line.line} line={line} onOpen={onOpenLine} />
          ))}
        </ul>
      ))}
      {piece.after.length > 0 && (
        <ul className={styles.lines}>
          {piece.after.map((line) => (
            <Line key={line.line} line={line} label="then" onOpen={onOpenLine} />
          ))}
        </ul>
      )}
      {piece.notes.map((note) => (
        <p key={note} className={styles.pieceNote}>
          {note}
        </p>
      ))}
      {arithmetic && <p className={`${styles.sum} num`}>{arithmetic}</p>}
      {piece.cautions.length > 0 && (
        <ul className={wordStyles.cautions} aria-label="Cautions">
          {piece.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      )}
      {children}
    </section>
  );
}
