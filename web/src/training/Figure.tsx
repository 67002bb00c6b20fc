// A movement drawn by the program: still, in motion, or as it goes wrong.
import { useReducedMotion } from "@mantine/hooks";
import { useEffect, useMemo, useRef, useState } from "react";
import styles from "./Figure.module.css";
import {
  boxOf,
  type Cycle,
  HEAD,
  keyTimes,
  type Moment,
  momentAt,
  outline,
  strokes,
  type Thing,
  turned,
} from "./figureLines";

function Outline({ thing }: { thing: Thing }) {
  const { d, r, r2 } = outline(thing);
  const [x, y] = [thing.at[0] * 100, -thing.at[1] * 100];
  return (
    <g className={styles.thing} transform={turned(thing)} data-thing={thing.kind}>
      {d && <path d={d} />}
      {r && <circle cx={x} cy={y} r={r} />}
      {r2 && <circle cx={x} cy={y} r={r2} />}
    </g>
  );
}

/** One moment, drawn; `mark` rings where it goes wrong. */
export function Drawn({
  at,
  view,
  scene,
  box,
  label,
  mark,
}: {
  at: Moment;
  view: Cycle["view"];
  scene: readonly Thing[];
  box: string;
  label: string;
  mark?: readonly [number, number];
}) {
  const head = at.joints.head ?? [0, 0];
  const [left = 0, , width = 0] = box.split(" ").map(Number);
  return (
    <svg
      className={styles.figure}
      viewBox={box}
      role="img"
      aria-label={label}
      data-t={at.t_s.toFixed(3)}
      data-head={`${head[0].toFixed(3)},${head[1].toFixed(3)}`}
    >
      <path className={styles.floor} d={`M${left} 1.5 h${width}`} />
      {scene.map((thing, i) => (
        // What stands around has no name but its place.
        <Outline key={i} thing={thing} />
      ))}
      {strokes(at.joints, view).map((each) => (
        <path
          key={each.id}
          d={each.d}
          strokeWidth={each.width}
          className={each.edge ? styles.edge : each.far ? styles.far : undefined}
        />
      ))}
      <circle className={styles.head} cx={head[0] * 100} cy={-head[1] * 100} r={HEAD} />
      {at.objects.map((thing, i) => (
        <Outline key={i} thing={thing} />
      ))}
      {mark && <circle className={styles.mark} cx={mark[0] * 100} cy={-mark[1] * 100} r="14" />}
    </svg>
  );
}

/** Seconds into a motion, counted on while it plays; reduced motion stands at the turning pose. */
function useSeconds(playing: boolean, pace: number, from: number, now?: (() => number) | null) {
  const [seconds, set] = useState(from);
  const pass = useRef(from);
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function next(at) {
      pass.current = now ? now() : pass.current + ((at - last) / 1000) * pace;
      last = at;
      set(pass.current);
      frame = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, pace, now]);
  const jump = (to: number) => {
    pass.current = to;
    set(to);
  };
  return [seconds, jump] as const;
}

/** A motion that plays by itself, and can be held, stepped and slowed where there is room. */
export function Figure({
  cycle,
  tools = false,
  rests = false,
  now,
}: {
  cycle: Cycle;
  tools?: boolean;
  /** Stands at its turning pose while others move. */
  rests?: boolean;
  /** The clock all displays share: they move together. */
  now?: (() => number) | null;
}) {
  // Known from the first picture on: who asked for less motion sees none.
  const still = useReducedMotion(undefined, { getInitialValueInEffect: false }) || rests;
  const keys = useMemo(() => keyTimes(cycle), [cycle]);
  const turning = keys.find((each) => each.key === cycle.turning)?.t_s ?? 0;
  const [held, hold] = useState<boolean | null>(null);
  const [slow, setSlow] = useState(false);
  // Who asked for less motion starts it by hand.
  const playing = held === null ? !still : !held;
  const [seconds, jump] = useSeconds(
    playing && keys.length > 1,
    slow ? 0.4 : 1,
    still ? turning : 0,
    now,
  );
  const box = useMemo(() => boxOf(cycle.frames, cycle.scene ?? []), [cycle]);
  const at = momentAt(cycle, still && held === null ? turning : seconds);
  const near = keys.findLast((each) => each.t_s <= at.t_s + 0.001) ?? keys[0];
  const step = () => {
    const next = keys.find((each) => each.t_s > at.t_s + 0.001) ?? keys[0];
    hold(true);
    jump(next?.t_s ?? 0);
  };
  const poses = [...new Set(keys.map((each) => each.key))].join(", ");
  return (
    <div className={styles.player}>
      <Drawn
        at={at}
        view={cycle.view}
        scene={cycle.scene ?? []}
        box={box}
        label={`${cycle.movement}: ${poses}`}
      />
      {tools && (
        <p className={styles.tools}>
          {keys.length > 1 && (
            <>
              <button type="button" onClick={() => hold(playing)}>
                {playing ? "Pause" : "Play"}
              </button>
              <button type="button" onClick={step}>
                Step
              </button>
              <label>
                <input
                  type="checkbox"
                  checked={slow}
                  onChange={(event) => setSlow(event.currentTarget.checked)}
                />
                slow
              </label>
            </>
          )}
          <span data-field="pose">{near?.key}</span>
        </p>
      )}
    </div>
  );
}

/** What commonly goes wrong, each ringed where and named. */
export function Faults({ cycle }: { cycle: Cycle }) {
  const scene = cycle.scene ?? [];
  const faults = cycle.faults ?? [];
  if (faults.length === 0) return null;
  return (
    <ul className={styles.faults} aria-label="Faults">
      {faults.map((fault) => (
        <li key={fault.word}>
          <Drawn
            at={fault.frame}
            view={cycle.view}
            scene={scene}
            box={boxOf([fault.frame], scene)}
            label={`${fault.word}, ${fault.pose}`}
            mark={fault.mark as [number, number]}
          />
          <b>{fault.word}</b>
        </li>
      ))}
    </ul>
  );
}
