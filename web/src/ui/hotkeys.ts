// Single-key shortcuts: quiet while typing, and they can be switched off.
import { useEffect } from "react";

const SWITCH = "pine-shortcuts";

export const shortcutsOn = () => localStorage.getItem(SWITCH) !== "off";
export const switchShortcuts = (on: boolean) => localStorage.setItem(SWITCH, on ? "on" : "off");

function typing(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return Boolean(
    element?.closest("input, textarea, select, [contenteditable=true], [role=dialog]"),
  );
}

/** An open dialog has the keys: what lies behind it does not move. */
const covered = (): boolean => document.querySelector("[role=dialog][aria-modal=true]") !== null;

/** Space and Enter on a button or a link are its own. */
function pressing(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  const owns = element?.closest("button, a, summary, [role=button], [role=menuitem], label");
  return (event.key === " " || event.key === "Enter") && Boolean(owns);
}

export function useShortcuts(keys: Record<string, () => void>): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      if (pressing(event) || covered()) return;
      if (event.key !== "?" && !shortcutsOn()) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [keys]);
}
