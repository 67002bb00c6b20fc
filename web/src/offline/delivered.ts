// Told when an entry has landed, with the server's answer.
import type { Waiting } from "./queue";

export type Landed = { one: Waiting; got: unknown };
const target = new EventTarget();

export const tellLanded = (landed: Landed) =>
  target.dispatchEvent(new CustomEvent("landed", { detail: landed }));

export function onLanded(tell: (landed: Landed) => void): () => void {
  const hear = (event: Event) => tell((event as CustomEvent<Landed>).detail);
  target.addEventListener("landed", hear);
  return () => target.removeEventListener("landed", hear);
}
