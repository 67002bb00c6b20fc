// Which programme this page is about: each tab has its own, a new one begins with the last chosen.
// Null is the gym's first, which is all there is in most gyms.

import { useSyncExternalStore } from "react";
import { at } from "./base";

export type Line = number | null;

const STORE = "pine-programme";
const changed = new EventTarget();

function last(): Line {
  try {
    return Number(sessionStorage.getItem(STORE) ?? localStorage.getItem(STORE)) || null;
  } catch {
    return null;
  }
}

let current: Line = last();

export const programme = (): Line => current;

/** Have the page be about another programme from now on. */
export function chooseProgramme(next: Line): void {
  if (next === current) return;
  current = next;
  try {
    for (const store of [sessionStorage, localStorage]) store.setItem(STORE, String(next ?? ""));
  } catch {
    // A closed store only means that the next page begins with the first programme.
  }
  changed.dispatchEvent(new Event("change"));
}

function watch(tell: () => void): () => void {
  changed.addEventListener("change", tell);
  return () => changed.removeEventListener("change", tell);
}

export const useProgramme = (): Line => useSyncExternalStore(watch, programme);

/** The parameters of a request, with the programme it is about unless they name one. */
export function inProgramme(query: Record<string, unknown>): Record<string, unknown> {
  const { in_programme: line = current, ...rest } = query;
  return line === null ? rest : { ...rest, in_programme: line };
}

/** The address of a file, of the programme the page is about. */
export const fileAt = (path: string): string =>
  current === null
    ? at(path)
    : `${at(path)}${path.includes("?") ? "&" : "?"}in_programme=${current}`;
