// Saving a board as it is typed: never over somebody else's, never lost, never against oneself.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { programme } from "../api/programme";
import { dropDraft, findDraft, keepDraft } from "./drafts";

type DayOut = Schemas["DayOut"];
type Asked = Pick<Schemas["DayConflict"], "questions" | "titles">;
export type Answers = Schemas["Whereto"][];

export type Saving =
  | { state: "saved"; at: string | null; version: number }
  | { state: "typing" }
  | { state: "restored"; at: number }
  | { state: "saving" }
  | { state: "offline"; message: string }
  | { state: "refused"; message: string }
  | { state: "conflict"; newer: DayOut }
  | { state: "asked"; asked: Asked };

const PAUSE_MS = 900;
const RETRY_MS = 4000;

/** The newest version this page has saved itself, by programme and day: leaving Write and coming back is no conflict. */
const own = new Map<string, DayOut>();
/** A save under way, by programme and day: whoever saves next waits for it. */
const underway = new Map<string, Promise<unknown>>();

const newest = (place: string, saved: DayOut): DayOut => {
  const mine = own.get(place);
  return mine && mine.version > saved.version ? mine : saved;
};

/**
 * The saving of a day's text. `renew` is given the text that somebody else has saved while this page
 * left the day as it was, and says whether it shows it now.
 */
export function useSaving(date: string, found: DayOut, renew: (text: string) => boolean) {
  const client = useQueryClient();
  // The programme the day was opened in: what is typed is saved there, whatever is looked at since.
  const [line] = useState(programme);
  const place = `${line ?? ""}/${date}`;
  // What was found on opening stays what was found, however often the day is saved after.
  const [opening] = useState(() => {
    const saved = newest(place, found);
    const draft = findDraft(date, line);
    const restored = draft !== null && draft.text !== saved.text;
    return {
      first: restored ? draft.text : saved.text,
      restored,
      restoredAt: restored ? draft.at : 0,
      version: restored ? draft.version : saved.version,
      base: saved.text,
      // A draft on an older version that this page saved itself goes on from the newer one.
      stale: restored && draft.version !== saved.version && !own.has(place),
      saved,
    };
  });
  const { first, restored, stale, saved } = opening;
  const text = useRef(first);
  const base = useRef(opening.base);
  const version = useRef(opening.version);
  const savedAt = useRef(saved.saved_at);
  const timer = useRef<number>(undefined);
  const busy = useRef(false);
  const answers = useRef<{ text: string; list: Answers } | null>(null);
  const [status, setStatus] = useState<Saving>(
    stale
      ? { state: "conflict", newer: saved }
      : restored
        ? { state: "restored", at: opening.restoredAt }
        : { state: "saved", at: saved.saved_at, version: saved.version },
  );
  const conflicted = useRef(stale);
  // A draft that was found is offered: it is saved when its writer says so, or types on.
  const offered = useRef(restored);

  const landed = useCallback(
    (done: DayOut) => {
      own.set(place, done);
      version.current = done.version;
      base.current = done.text;
      savedAt.current = done.saved_at;
      if (programme() === line) client.setQueryData(keys.text(date), done);
      client.invalidateQueries({
        queryKey: keys.day(date),
        predicate: (query) => query.queryKey[2] !== "text",
      });
      client.invalidateQueries({ queryKey: keys.weeks });
    },
    [client, date, line, place],
  );

  const save = useCallback(async () => {
    window.clearTimeout(timer.current);
    if (busy.current || conflicted.current) return;
    offered.current = false;
    busy.current = true;
    setStatus({ state: "saving" });
    await underway.get(place)?.catch(() => undefined);
    version.current = Math.max(version.current, own.get(place)?.version ?? 0);
    const sent = text.current;
    const told = answers.current?.text === sent ? answers.current.list : [];
    const query = { in_programme: line };
    const body = { text: sent, version: version.current, answers: told };
    const call = ask(api.PUT("/api/days/{date}", { params: { path: { date }, query }, body }));
    underway.set(place, call);
    const again = () => {
      keepDraft(date, { text: text.current, version: version.current, at: Date.now() }, line);
      setStatus({ state: "typing" });
      timer.current = window.setTimeout(save, PAUSE_MS);
    };
    const settled = (done: DayOut) => {
      landed(done);
      if (text.current !== sent) return again();
      dropDraft(date, line);
      setStatus({ state: "saved", at: done.saved_at, version: done.version });
    };
    try {
      settled(await call);
    } catch (error) {
      const refusal = error as Refusal;
      const newer = refusal.newer as DayOut | null | undefined;
      if (refusal.status === 409 && newer && newer.text === sent) {
        // The answer to an earlier try was lost, or another tab of mine has saved the same.
        settled(newer);
      } else if (refusal.status === 409 && newer && newer.text === base.current) {
        // Nothing but the version has moved on.
        landed(newer);
        again();
      } else if (refusal.status === 409 && refusal.questions.length) {
        setStatus({
          state: "asked",
          asked: { questions: refusal.questions, titles: refusal.titles },
        });
      } else if (refusal.status === 409 && newer) {
        conflicted.current = true;
        setStatus({ state: "conflict", newer });
      } else if (refusal.status === 422 || refusal.status === 413) {
        setStatus({ state: "refused", message: refusal.message });
      } else {
        setStatus({ state: "offline", message: refusal.message });
        timer.current = window.setTimeout(save, RETRY_MS);
      }
    } finally {
      busy.current = false;
      if (underway.get(place) === call) underway.delete(place);
    }
  }, [date, landed, line, place]);

  const type = useCallback(
    (next: string) => {
      if (offered.current && next === text.current) return;
      text.current = next;
      offered.current = false;
      window.clearTimeout(timer.current);
      if (next === base.current && !busy.current && !conflicted.current) {
        // It stands saved as it is: typed and taken back, or another's that was taken over.
        dropDraft(date, line);
        setStatus({ state: "saved", at: savedAt.current, version: version.current });
        return;
      }
      keepDraft(date, { text: next, version: version.current, at: Date.now() }, line);
      if (conflicted.current) return;
      setStatus({ state: "typing" });
      timer.current = window.setTimeout(save, PAUSE_MS);
    },
    [date, line, save],
  );

  /** Save the text as it stands with the coach's word on where scored pieces went. */
  const answer = useCallback(
    (list: Answers) => {
      answers.current = { text: text.current, list };
      return save();
    },
    [save],
  );

  /** End a conflict by building on the newer version; the caller decides which text stands. */
  const settle = useCallback((newer: Pick<DayOut, "text" | "version" | "saved_at">) => {
    conflicted.current = false;
    version.current = newer.version;
    base.current = newer.text;
    savedAt.current = newer.saved_at;
  }, []);

  // Somebody else has saved the day while it was left as it was here: the page follows. What was
  // changed here is never replaced; the next save tells of the newer one.
  const show = useRef(renew);
  show.current = renew;
  useEffect(() => {
    const left = text.current === base.current && !busy.current && !conflicted.current;
    if (!left || found.version <= version.current) return;
    const stood = { text: base.current, version: version.current, saved_at: savedAt.current };
    // Showing it is heard as typing: by then it has to be what stands.
    settle(found);
    text.current = found.text;
    if (show.current(found.text)) {
      setStatus({ state: "saved", at: found.saved_at, version: found.version });
    } else {
      settle(stood);
      text.current = stood.text;
    }
  }, [found, settle]);

  useEffect(() => {
    const online = () => {
      if (findDraft(date, line) && !offered.current) save();
    };
    const guard = (event: BeforeUnloadEvent) => {
      if (findDraft(date, line)) event.preventDefault();
    };
    window.addEventListener("online", online);
    window.addEventListener("beforeunload", guard);
    return () => {
      window.removeEventListener("online", online);
      window.removeEventListener("beforeunload", guard);
      if (findDraft(date, line) && !conflicted.current && !offered.current) save();
      window.clearTimeout(timer.current);
    };
  }, [date, line, save]);

  /** Leave the draft that was found; the text that stands saved. */
  const discard = useCallback((): string => {
    offered.current = false;
    conflicted.current = false;
    dropDraft(date, line);
    text.current = base.current;
    setStatus({ state: "saved", at: savedAt.current, version: version.current });
    return base.current;
  }, [date, line]);

  return { first, status, type, settle, answer, save, discard };
}
