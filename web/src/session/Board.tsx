// The board as athletes read it.
import type { Schemas } from "../api/client";

type LineView = Schemas["LineView"];
type PieceView = Schemas["PieceView"];
type TaskView = Schemas["TaskView"];

function Task({ task }: { task: TaskView }) {
  return (
    <span className="task">
      <b className="num">{task.amount}</b> <span>{task.movement}</span>
      {!task.known && <em className="task-new">new movement</em>}
      {task.details.map((detail) => (
        <span key={detail} className="task-detail">
          {detail}
        </span>
      ))}
      {task.load && <span className="task-load num">{task.load}</span>}
      {task.alternatives.map((other) => (
        <span key={other} className="task-or">
          or {other}
        </span>
      ))}
      {task.loading && <span className="task-why num">{task.loading}</span>}
      {task.reason && <span className="task-why">{task.reason}</span>}
      {task.note && <span className="task-note">{task.note}</span>}
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
  return (
    <li data-open={onOpen ? true : undefined}>
      {label && <span className="line-label">{label}</span>}
      {line.station && (
        <span className="line-station num" data-station>
          {line.station}
        </span>
      )}
      {line.rest ? (
        <span className="task-rest">rest</span>
      ) : (
        <span className="line-tasks">
          {line.tasks.map((task, index) => (
            // Tasks of a line have no name but their place.
            <Task key={index} task={task} />
          ))}
        </span>
      )}
      {onOpen && (
        <button
          type="button"
          className="line-open"
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
  arithmetic,
  selected,
  onOpenLine,
  tools,
  children,
}: {
  piece: PieceView;
  arithmetic?: string;
  selected?: boolean;
  onOpenLine?: (line: number) => void;
  tools?: React.ReactNode;
  children?: React.ReactNode;
}) {
  return (
    <section className="piece" data-role={piece.role} data-selected={selected || undefined}>
      <header>
        <h3>
          <span className="role-mark" data-role={piece.role} aria-hidden />
          {piece.title}
          {piece.title.toLowerCase() !== piece.role && (
            <span className="piece-role">{piece.role}</span>
          )}
        </h3>
        <p className="piece-format num">{[piece.format, ...piece.modifiers].join(" · ")}</p>
        {tools}
      </header>
      {piece.before.length > 0 && (
        <ul className="lines">
          {piece.before.map((line) => (
            <Line key={line.line} line={line} label="first" onOpen={onOpenLine} />
          ))}
        </ul>
      )}
      {piece.blocks.map((block, index) => (
        <ul className="lines" key={block[0]?.line ?? index}>
          {block.map((line) => (
            <Line key={line.line} line={line} onOpen={onOpenLine} />
          ))}
        </ul>
      ))}
      {piece.after.length > 0 && (
        <ul className="lines">
          {piece.after.map((line) => (
            <Line key={line.line} line={line} label="then" onOpen={onOpenLine} />
          ))}
        </ul>
      )}
      {piece.notes.map((note) => (
        <p key={note} className="piece-note">
          {note}
        </p>
      ))}
      {arithmetic && <p className="piece-sum num">{arithmetic}</p>}
      {piece.cautions.length > 0 && (
        <ul className="cautions" aria-label="Cautions">
          {piece.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      )}
      {children}
    </section>
  );
}
