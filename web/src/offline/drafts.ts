// What is typed is kept in the browser until the server has it, for the person who typed it alone.
import { guardOwner } from "../api/client";
import type { Line } from "../api/programme";

export type Draft = { text: string; version: number; at: number };

const name = (date: string, line: Line) =>
  `pine-draft:${guardOwner() ?? "nobody"}:${line === null ? date : `${line}/${date}`}`;

/** Keep a draft; whether there was room for it. */
export function keepDraft(date: string, draft: Draft, line: Line = null): boolean {
  try {
    localStorage.setItem(name(date, line), JSON.stringify(draft));
    return true;
  } catch {
    // A full or closed store must not stop the typing; the server still gets the text.
    return false;
  }
}

export function findDraft(date: string, line: Line = null): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(name(date, line)) ?? "null");
  } catch {
    return null;
  }
}

export function dropDraft(date: string, line: Line = null): void {
  localStorage.removeItem(name(date, line));
}
