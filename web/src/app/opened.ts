// The list or dialog open over the screens. It stays open when the screen it was opened from gives
// way to the one that was chosen just before, and closes with the address.
import { useMemo, useSyncExternalStore } from "react";

type Opened = { name: string; path: string };

let opened: Opened | null = null;
const changed = new EventTarget();

function set(next: Opened | null): void {
  opened = next;
  changed.dispatchEvent(new Event("change"));
}

function watch(tell: () => void): () => void {
  changed.addEventListener("change", tell);
  return () => changed.removeEventListener("change", tell);
}

/** Whether what has this name is open at the present address, and how to open and close it. */
export function useOpened(name: string): [boolean, { open: () => void; close: () => void }] {
  const now = useSyncExternalStore(watch, () => opened);
  const acts = useMemo(
    () => ({
      open: () => set({ name, path: window.location.pathname }),
      close: () => set(null),
    }),
    [name],
  );
  return [now?.name === name && now.path === window.location.pathname, acts];
}
