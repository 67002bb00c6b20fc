// What was noted without network: kept on this device and sent until it has landed, each once.
import { useEffect, useState } from "react";
import { api, ask, type Refusal, type Schemas } from "../api/client";

/** A note and where it belongs; `mine` is noted by the athlete of themselves. */
export type Note = Schemas["JotForm"] & { date: string; piece: string; mine: boolean };

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
      const { date, piece, mine } = waiting[0] as Note;
      const batch = waiting.filter(
        (one) => one.date === date && one.piece === piece && one.mine === mine,
      );
      const jots = batch.map(({ date: _d, piece: _p, mine: _m, ...jot }) => jot);
      const params = { path: { date, key: piece } };
      try {
        await ask(
          mine
            ? api.POST("/api/me/days/{date}/pieces/{key}/jots", {
                params,
                body: { jots: jots.map(({ person_id: _me, ...jot }) => jot) },
              })
            : api.POST("/api/days/{date}/pieces/{key}/jots", { params, body: { jots } }),
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

/** A number as jotted: plain, or minutes:seconds. */
export function numberOf(text: string): number | null {
  const time = /^(\d+)[:.](\d\d)$/.exec(text.trim());
  if (time) return Number(time[1]) * 60 + Number(time[2]);
  return /^\d+([.,]\d+)?$/.test(text.trim()) ? Number(text.trim().replace(",", ".")) : null;
}
