// Drafting several days one after the other, each with those before it; broken off by a press.
import { useEffect, useRef, useState } from "react";
import { Refusal } from "../api/client";
import type { Drafted } from "./Draft";

export type Texts = Record<string, string>;
type Make = (date: string, drafted: Texts, seed: number, signal: AbortSignal) => Promise<Drafted>;

/** Drafts by date, what could not be drafted and why, and the date in work; null when none is. */
export function useDrafting(make: Make) {
  const [drafts, setDrafts] = useState<Record<string, Drafted>>({});
  const [problems, setProblems] = useState<Texts>({});
  const [working, setWorking] = useState<{ date: string; at: number; of: number } | null>(null);
  const seed = useRef(1);
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);

  const texts = (of: Record<string, Drafted>): Texts =>
    Object.fromEntries(Object.entries(of).map(([date, draft]) => [date, draft.text]));

  const run = async (dates: readonly string[], from: Record<string, Drafted>) => {
    const control = new AbortController();
    running.current?.abort();
    running.current = control;
    const made = { ...from };
    for (const date of dates) delete made[date];
    setDrafts(made);
    setProblems({});
    for (const [place, date] of dates.entries()) {
      setWorking({ date, at: place + 1, of: dates.length });
      try {
        made[date] = await make(date, texts(made), seed.current, control.signal);
        if (control.signal.aborted) return;
        setDrafts({ ...made });
      } catch (error) {
        if (control.signal.aborted) return;
        const why = error instanceof Refusal ? error.message : "No connection: try again.";
        setProblems((all) => ({ ...all, [date]: why }));
      }
    }
    setWorking(null);
  };
  return {
    drafts,
    texts: texts(drafts),
    problems,
    working,
    /** Draft days from nothing. */
    start: (dates: readonly string[]) => run(dates, {}),
    /** Draft one of them anew, the others as they are. */
    again: (date: string) => {
      seed.current += 1;
      return run([date], drafts);
    },
    drop: (date: string) =>
      setDrafts(({ [date]: _dropped, ...rest }) => {
        return rest;
      }),
    /** Stop after what is made. */
    cancel: () => {
      running.current?.abort();
      setWorking(null);
    },
    clear: () => {
      running.current?.abort();
      setWorking(null);
      setDrafts({});
      setProblems({});
    },
  };
}
