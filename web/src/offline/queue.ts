// What waits to be sent: one list a browser, kept in its storage through reloads, closed tabs and
// new deploys. Each entry belongs to who made it and is sent until the server has taken or refused
// it.
import type { Schemas } from "../api/client";
import { type Line, programme } from "../api/programme";

type Score = {
  kind: "score";
  date: string;
  key: string;
  person: number;
  /** The athlete's own score, sent by themselves. */
  mine: boolean;
  body: Schemas["ScoreForm"];
};
type RoundTime = {
  kind: "jot";
  date: string;
  key: string;
  mine: boolean;
  jot: Schemas["JotForm"];
};
type Here = { kind: "here"; date: string; classId: number; person: number; here: boolean };
type CheckIn = { kind: "check-in"; date: string; start: string; here: boolean };
type Effort = { kind: "effort"; date: string; body: Schemas["EffortForm"] };
type Finish = {
  kind: "finish";
  date: string;
  classId: number;
  body: Omit<Schemas["PressForm"], "step">;
};
export type Sent = Score | RoundTime | Here | CheckIn | Effort | Finish;

/** Why an entry waits in its place until it is changed; a conflict names the newer score. */
export type Why = { status: number; words: string; newer?: Schemas["ScoreOut"] | null };
/** `line` is the programme it was entered in; entries of an older program are of the first. */
export type Waiting = Sent & {
  id: string;
  who: number;
  line?: Line;
  at: string;
  refused?: Why;
};

export const STORE = "pine-outbox";
const changed = new EventTarget();

export const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) =>
    b.toString(16).padStart(2, "0"),
  ).join("");

/** The cell an entry is for: a later entry for it takes the place of an earlier one. */
export function cellOf(one: Sent & { line?: Line }): string {
  // Pieces and classes have numbers of their own; what hangs on a date alone is of a programme.
  const day = one.line ? `${one.line}/${one.date}` : one.date;
  switch (one.kind) {
    case "score":
      return `score/${one.date}/${one.key}/${one.person}`;
    case "jot":
      return `jot/${one.jot.key}`;
    case "here":
      return `here/${one.classId}/${one.person}`;
    case "check-in":
      return `check-in/${day}/${one.start}`;
    case "effort":
      return `effort/${day}`;
    case "finish":
      return `finish/${one.classId}/${one.body.key}/${one.body.athlete_id}`;
  }
}

/** The list where the browser's store had no room for it: kept as long as the page is open. */
let homeless: Waiting[] | null = null;
const full = new EventTarget();

/** Be told when an entry could not be kept in the browser's store. */
export function onFull(tell: () => void): () => void {
  full.addEventListener("full", tell);
  return () => full.removeEventListener("full", tell);
}

/** The list as text, equal as long as nothing changed. */
export const stored = (): string =>
  homeless ? JSON.stringify(homeless) : (localStorage.getItem(STORE) ?? "[]");

export function read(): Waiting[] {
  if (homeless) return homeless;
  try {
    const kept = JSON.parse(localStorage.getItem(STORE) ?? "[]");
    return Array.isArray(kept) ? kept : [];
  } catch {
    return [];
  }
}

function write(list: readonly Waiting[]): void {
  try {
    localStorage.setItem(STORE, JSON.stringify(list));
    homeless = null;
  } catch {
    homeless = [...list];
    full.dispatchEvent(new Event("full"));
  }
  changed.dispatchEvent(new Event("change"));
}

/** Notes go in their order, each by itself; but what was refused in a place makes room for more. */
function gone(old: Waiting, one: Waiting): boolean {
  if (old.who !== one.who) return false;
  if (cellOf(old) === cellOf(one)) return true;
  return Boolean(
    old.kind === "jot" &&
      old.refused &&
      one.kind === "jot" &&
      old.date === one.date &&
      old.key === one.key &&
      old.mine === one.mine &&
      old.jot.person_id === one.jot.person_id &&
      old.jot.round === one.jot.round,
  );
}

/** Keep something to send; what waited for the same cell is replaced by it. */
export function put(who: number, sent: Sent, at = new Date()): Waiting {
  const line = programme();
  const one: Waiting = { ...sent, id: newKey(), who, line, at: at.toISOString() };
  write([...read().filter((old) => !gone(old, one)), one]);
  return one;
}

/** What was given up waits again as it was, unless its cell has been written since. */
export function restore(one: Waiting): void {
  const list = read();
  // Before all others: what was noted since stands over it.
  if (!list.some((other) => cellOf(other) === cellOf(one))) write([one, ...list]);
}

/** A score has landed: what waits for its cell on the version before goes on from the new one. */
export function rebase(landed: Waiting, version: number): void {
  if (landed.kind !== "score") return;
  const cell = cellOf(landed);
  write(
    read().map((one) =>
      one.kind === "score" &&
      one.id !== landed.id &&
      one.who === landed.who &&
      cellOf(one) === cell &&
      one.body.version === landed.body.version
        ? { ...one, body: { ...one.body, version } }
        : one,
    ),
  );
}

/** Whether an entry is of this date in the programme that is looked at. */
export const isHere = (one: Waiting, date: string): boolean =>
  one.date === date && (one.line ?? null) === programme();

/** An entry has landed, or is given up by who made it. */
export function drop(id: string): void {
  write(read().filter((one) => one.id !== id));
}

/** An entry was refused: it stays in its place with the reason until it is changed. */
export function refuse(id: string, why: Why): void {
  write(read().map((one) => (one.id === id ? { ...one, refused: why } : one)));
}

/** Be told of every change, in this tab and in others. */
export function watch(tell: () => void): () => void {
  const other = (event: StorageEvent) => event.key === STORE && tell();
  changed.addEventListener("change", tell);
  window.addEventListener("storage", other);
  return () => {
    changed.removeEventListener("change", tell);
    window.removeEventListener("storage", other);
  };
}
