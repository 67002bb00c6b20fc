// A form's value while it is changed: what is typed, what was saved last, and what was said of it.
import { useState } from "react";
import { merged, same } from "./merge";

/** The outcome of the last attempt to save. */
type Outcome = { saved: boolean; text: string } | null;

/**
 * The state of one form. `start` is what was saved when it opened; `set` changes a part of the
 * value; `takeSaved` tells what the server has now, and keeps what was typed since it was sent.
 */
export function useEdited<V extends object>(start: V) {
  const [saved, setSaved] = useState(start);
  const [value, setValue] = useState(start);
  const [outcome, setOutcome] = useState<Outcome>(null);
  return {
    value,
    saved,
    outcome,
    unsaved: !same(value, saved),
    set: (change: Partial<V>) => {
      setOutcome(null);
      setValue((before) => ({ ...before, ...change }));
    },
    takeSaved: (sent: V, now: V) => {
      setSaved(now);
      setValue((typed) => merged(sent, typed, now));
      setOutcome({ saved: true, text: "Saved." });
    },
    /** A value that somebody else saved meanwhile comes in beside what is typed here. */
    takeOthers: (now: V, text: string) => {
      const typed = !same(value, saved);
      setValue((mine) => merged(saved, mine, now));
      setSaved(now);
      if (typed) setOutcome({ saved: false, text });
    },
    refuse: (text: string) => setOutcome({ saved: false, text }),
    discard: () => {
      setValue(saved);
      setOutcome(null);
    },
  };
}
