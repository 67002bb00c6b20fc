// What is typed is kept in the browser until the server has it.
import type { Line } from "../api/programme";

export type Draft = { text: string; version: number; at: number };

const name = (date: string, line: Line) =>
  line === null ? `pine-draft:${date}` : `pine-draft:${line}/${date}`;

export function keepDraft(date: string, draft: Draft, line: Line = null): void {
  try {
    localStorage.setItem(name(date, line), JSON.stringify(draft));
  } catch {
    // A full or closed store must not stop the typing; the server still gets the text.
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
