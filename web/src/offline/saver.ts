// Saving a board as it is typed: never over somebody else's, never lost.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../../api/client";
import { day as dayQuery } from "../../api/queries";
import { dropDraft, findDraft, keepDraft } from "./drafts";

type DayOut = Schemas["DayOut"];

export type Saving =
  | { state: "saved"; at: string | null; version: number }
  | { state: "typing" }
  | { state: "saving" }
  | { state: "offline"; message: string }
  | { state: "conflict"; newer: DayOut };

const PAUSE_MS = 900;
const RETRY_MS = 4000;

export function useSaving(date: string, saved: DayOut) {
  const client = useQueryClient();
  // What was found on opening stays what was found, however often the day is saved after.
  const [opening] = useState(() => {
    const draft = findDraft(date);
    const restored = draft !== null && draft.text !== saved.text;
    return {
      first: restored ? draft.text : saved.text,
      restored,
      restoredAt: restored ? draft.at : null,
      version: restored ? draft.version : saved.version,
      stale: restored && draft.version !== saved.version,
    };
  });
  const { first, restored, stale } = opening;
  const text = useRef(first);
  const version = useRef(opening.version);
  const timer = useRef<number>(undefined);
  const busy = useRef(false);
  const [status, setStatus] = useState<Saving>(
    stale
      ? { state: "conflict", newer: saved }
      : restored
        ? { state: "typing" }
        : { state: "saved", at: saved.saved_at, version: saved.version },
  );
  const conflicted = useRef(stale);

  const save = useCallback(async () => {
    window.clearTimeout(timer.current);
    if (busy.current || conflicted.current) return;
    busy.current = true;
    setStatus({ state: "saving" });
    const sent = text.current;
    try {
      const body = { text: sent, version: version.current };
      const done = await ask(api.PUT("/api/days/{date}", { params: { path: { date } }, body }));
      version.current = done.version;
      client.setQueryData(dayQuery(date).queryKey, done);
      client.invalidateQueries({ queryKey: ["sheet", date] });
      client.invalidateQueries({ queryKey: ["standings", date] });
      if (text.current === sent) {
        dropDraft(date);
        setStatus({ state: "saved", at: done.saved_at, version: done.version });
      } else {
        keepDraft(date, { text: text.current, version: done.version, at: Date.now() });
        setStatus({ state: "typing" });
        timer.current = window.setTimeout(save, PAUSE_MS);
      }
    } catch (error) {
      const refusal = error as Refusal;
      if (refusal.status === 409) {
        conflicted.current = true;
        setStatus({ state: "conflict", newer: refusal.newer as DayOut });
      } else {
        setStatus({ state: "offline", message: refusal.message });
        timer.current = window.setTimeout(save, RETRY_MS);
      }
    } finally {
      busy.current = false;
    }
  }, [client, date]);

  const type = useCallback(
    (next: string) => {
      text.current = next;
      keepDraft(date, { text: next, version: version.current, at: Date.now() });
      if (conflicted.current) return;
      setStatus({ state: "typing" });
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(save, PAUSE_MS);
    },
    [date, save],
  );

  /** End a conflict by building on the newer version; the caller decides which text stands. */
  const settle = useCallback((newer: DayOut) => {
    conflicted.current = false;
    version.current = newer.version;
  }, []);

  useEffect(() => {
    if (restored && !stale) save();
    const online = () => save();
    const guard = (event: BeforeUnloadEvent) => {
      if (findDraft(date)) event.preventDefault();
    };
    window.addEventListener("online", online);
    window.addEventListener("beforeunload", guard);
    return () => {
      window.removeEventListener("online", online);
      window.removeEventListener("beforeunload", guard);
      if (findDraft(date) && !conflicted.current) save();
      window.clearTimeout(timer.current);
    };
  }, [date, restored, save, stale]);

  return { first, restored, restoredAt: opening.restoredAt, status, type, settle, save };
}
