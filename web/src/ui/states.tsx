// The states every screen shares: waiting, failing, empty.
import { Button } from "@mantine/core";
import { onlineManager } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import styles from "./states.module.css";

/** Whether this device has a network. */
export const useOnline = (): boolean =>
  useSyncExternalStore(
    (tell) => onlineManager.subscribe(tell),
    () => onlineManager.isOnline(),
  );

export function Waiting({ what = "Loading" }: { what?: string }) {
  const online = useOnline();
  if (!online) {
    return (
      <p className={styles.state} role="status">
        No connection. This was not opened on this device before; it comes once you are online.
      </p>
    );
  }
  return (
    <p className={styles.state} role="status">
      <span className={styles.rungs} aria-hidden>
        <i />
        <i />
        <i />
      </span>
      {what}…
      <span className={styles.lines} aria-hidden>
        <i />
        <i />
        <i />
        <i />
      </span>
    </p>
  );
}

export function Failed({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <div className={styles.state} role="alert">
      <p>{error.message}</p>
      {retry && (
        <Button variant="default" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}

export function Empty({ children }: { children: React.ReactNode }) {
  return <div className={styles.state}>{children}</div>;
}
