// The screen stays on while a class is run or shown, where the browser lets it.
import { useEffect } from "react";

export function useWakeLock(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const hold = async () => {
      if (document.hidden || !navigator.wakeLock) return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (gone) lock.release();
      } catch {
        // A low battery or a setting may refuse it: the class goes on all the same.
      }
    };
    hold();
    // A browser lets go when the page is hidden.
    document.addEventListener("visibilitychange", hold);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", hold);
      lock?.release().catch(() => undefined);
    };
  }, []);
}
