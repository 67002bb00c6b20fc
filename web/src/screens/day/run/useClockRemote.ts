// The presses of a class's clock, one after the other; Pause, Resume and Next wait for a connection.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import type { Moment } from "../../../clock/moment";
import { wakeSound } from "../../../clock/sounds";
import { type MayWait, mayWait, pressedHere } from "../../../clock/waiting";

type Clock = Schemas["ClockOut"];
type Body = Omit<Schemas["PressForm"], "step">;

const AGAIN_MS = 3000;

/** Press, undo and redo of a class's clock; the last refusal in words; the number that waits. */
export function useClockRemote(id: number | null, moment: Moment) {
  const client = useQueryClient();
  const [problem, setProblem] = useState("");
  const [waits, setWaits] = useState(0);
  const waiting = useRef<{ press: MayWait; at: number; of: number | null }[]>([]);
  /** The newest press that the server told of when the first that waits was made. */
  const step = useRef(0);
  // One press after the other, each made on what the one before has left.
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const key = keys.clock(id);
  const stood = () => client.getQueryData<Clock | null>(keys.clock(id));
  const post = (body: Schemas["PressForm"], of = id) =>
    ask(
      api.POST("/api/classes/{class_id}/clock", {
        params: { path: { class_id: of ?? 0 } },
        body,
      }),
    );

  /** Let a press wait, and show the clock as it will be; false where that cannot be told. */
  const wait = (press: MayWait): boolean => {
    const now = stood();
    const at = moment?.();
    const after = now && at !== undefined ? pressedHere(now, press, at) : null;
    if (!now || !after || at === undefined) return false;
    if (waiting.current.length === 0) step.current = now.step;
    waiting.current.push({ press, at, of: id });
    client.setQueryData(key, after);
    setWaits(waiting.current.length);
    return true;
  };

  const flush = async () => {
    while (waiting.current[0]) {
      try {
        // Another class may be chosen by now: a press belongs to the one it was made in.
        const { press, at, of } = waiting.current[0];
        const now = await post({ press, at, step: step.current, heat: 1 }, of);
        step.current = now.step;
        waiting.current.shift();
        if (waiting.current.length === 0) client.setQueryData(keys.clock(of), now);
      } catch (error) {
        const refusal = error as Refusal;
        if (refusal.status === 0) return;
        const lost = waiting.current.length;
        waiting.current = [];
        setProblem(
          `${lost === 1 ? "The press that waited was" : `${lost} presses that waited were`} not carried out: ${refusal.message}.`,
        );
        await client.invalidateQueries({ queryKey: key });
      } finally {
        setWaits(waiting.current.length);
      }
    }
  };
  const next = (work: () => Promise<void>) => {
    line.current = line.current.then(work);
    return line.current;
  };
  const again = useRef(flush);
  again.current = flush;
  /** Send what waits, after the presses under way. */
  const sendWaiting = useCallback(() => {
    line.current = line.current.then(() => again.current());
    return line.current;
  }, []);
  useEffect(() => {
    if (!waits) return;
    const timer = window.setInterval(sendWaiting, AGAIN_MS);
    window.addEventListener("online", sendWaiting);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", sendWaiting);
    };
  }, [waits, sendWaiting]);

  const say = (work: (step: number) => Promise<Clock | null>, press?: string | null) => {
    wakeSound();
    next(async () => {
      setProblem("");
      if (waiting.current.length > 0) {
        await flush();
        if (waiting.current.length > 0) {
          if (!mayWait(press) || !wait(press)) {
            setProblem("No connection: Pause, Resume and Next wait, all else needs one.");
          }
          return;
        }
      }
      try {
        client.setQueryData(key, await work(stood()?.step ?? 0));
      } catch (error) {
        const refusal = error as Refusal;
        if (refusal.status === 0 && mayWait(press) && wait(press)) return;
        setProblem(refusal.message);
        if (refusal.status === 409) await client.invalidateQueries({ queryKey: key });
      }
    });
  };
  const at = (newest: number) => ({ params: { path: { class_id: id ?? 0, step: newest } } });
  return {
    problem,
    setProblem,
    waits,
    sendWaiting,
    send: (body: Body) => say((newest) => post({ ...body, step: newest }), body.press),
    undo: () =>
      say((newest) =>
        ask(api.DELETE("/api/classes/{class_id}/clock/{step}", at(newest))).then(
          (got) => got ?? null,
        ),
      ),
    redo: () =>
      say((newest) =>
        ask(api.PUT("/api/classes/{class_id}/clock/{step}", at(newest))).then((got) => got ?? null),
      ),
  };
}
