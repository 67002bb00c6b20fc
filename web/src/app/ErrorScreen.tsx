// A screen that cannot be shown: what happened, what is safe, and the way on.
import { Button } from "@mantine/core";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { useLocation } from "react-router";
import stateStyles from "../ui/states.module.css";

const RELOADED = "pine-reloaded";
const SOON_MS = 20_000;

/**
 * After a new deploy the parts of the old program are gone: the page is loaded anew, once. A part
 * that is missing again right after is told instead.
 */
export function reloadOnce(): void {
  window.addEventListener("vite:preloadError", (event) => {
    const last = Number(sessionStorage.getItem(RELOADED) ?? 0);
    if (Date.now() - last < SOON_MS || !navigator.onLine) return;
    sessionStorage.setItem(RELOADED, String(Date.now()));
    event.preventDefault();
    window.location.reload();
  });
}

/** Shows a screen; where it breaks, what there is to do. Another address is another try. */
export function Unbroken({ children }: { children: React.ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      {children}
    </ErrorBoundary>
  );
}

function Broken({ error }: FallbackProps) {
  const away = !navigator.onLine;
  return (
    <main className={stateStyles.state} role="alert">
      <h1>{away ? "This screen is not on this device yet" : "This screen could not be shown"}</h1>
      <p>
        {away
          ? "It opens once there is a connection again."
          : "The program may have been renewed, or has a fault."}{" "}
        What you typed is kept on this device.
      </p>
      <p>
        <Button onClick={() => window.location.reload()}>Load it again</Button>{" "}
        <Button variant="default" component="a" href="/">
          To the first screen
        </Button>
      </p>
      <details>
        <summary>What the program says</summary>
        <code>{error instanceof Error ? error.message : String(error)}</code>
      </details>
    </main>
  );
}
