// The states every screen shares: waiting, failing, empty.
import { Button } from "@mantine/core";

export function Waiting({ what = "Loading" }: { what?: string }) {
  return (
    <p className="state" role="status">
      <span className="state-rungs" aria-hidden>
        <i />
        <i />
        <i />
      </span>
      {what}…
    </p>
  );
}

export function Failed({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <div className="state" role="alert">
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
  return <div className="state">{children}</div>;
}
