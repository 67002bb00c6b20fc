// What was noted without network: kept on this device and sent until it has landed, each once.
import { useEffect, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../api/client";

export type Note = Schemas["JotForm"] & { date: string; piece: string };

const KEY = "pine-jots";
const RETRY_MS = 3000;
const changed = new EventTarget();

const stored = (): Note[] => JSON.parse(localStorage.getItem(KEY) ?? "[]");
const store = (notes: Note[]) => {
  localStorage.setItem(KEY, JSON.stringify(notes));
  changed.dispatchEvent(new Event("change"));
};

let busy = false;

/** Send what waits, oldest first; what cannot be sent stays. */
async function flush(): Promise<void> {
  if (busy) return;
  busy = true;
  try {
    for (let waiting = stored(); waiting.length > 0; waiting = stored()) {
      const { date, piece } = waiting[0] as Note;
      const batch = waiting.filter((one) => one.date === date && one.piece === piece);
      const jots = batch.map(({ date: _d, piece: _p, ...jot }) => jot);
      try {
        await ask(
          api.POST("/api/days/{date}/pieces/{key}/jots", {
            params: { path: { date, key: piece } },
            body: { jots },
          }),
        );
      } catch (error) {
        // Refused for good (no such piece, no such person): it would never land.
        const status = (error as Refusal).status;
        if (status !== 404 && status !== 422) return;
      }
      const sent = new Set(batch.map((one) => one.key));
      store(stored().filter((one) => !sent.has(one.key)));
    }
  } finally {
    busy = false;
  }
}

export function note(one: Omit<Note, "key" | "noted_at">): void {
  const key = crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;
  store([...stored(), { ...one, key, noted_at: new Date().toISOString() }]);
  flush();
}

/** What still waits on this device for a piece. */
export function useOutbox(date: string, piece: string): Note[] {
  const [notes, setNotes] = useState(stored);
  useEffect(() => {
    const look = () => setNotes(stored());
    changed.addEventListener("change", look);
    window.addEventListener("online", flush);
    const timer = window.setInterval(flush, RETRY_MS);
    flush();
    return () => {
      changed.removeEventListener("change", look);
      window.removeEventListener("online", flush);
      window.clearInterval(timer);
    };
  }, []);
  return notes.filter((one) => one.date === date && one.piece === piece);
}
