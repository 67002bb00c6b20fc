// What is typed is kept in the browser until the server has it.
export type Draft = { text: string; version: number; at: number };

const name = (date: string) => `pine-draft:${date}`;

export function keepDraft(date: string, draft: Draft): void {
  try {
    localStorage.setItem(name(date), JSON.stringify(draft));
  } catch {
    // A full or closed store must not stop the typing; the server still gets the text.
  }
}

export function findDraft(date: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(name(date)) ?? "null");
  } catch {
    return null;
  }
}

export function dropDraft(date: string): void {
  localStorage.removeItem(name(date));
}
