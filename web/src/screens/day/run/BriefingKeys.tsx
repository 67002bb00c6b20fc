// The briefing from the remote: movement by movement on the wall, as the coach goes on.
import { Button } from "@mantine/core";
import type { Schemas } from "../../../api/client";

type Press = "show next" | "show before" | "show none";

export function BriefingKeys({
  clock,
  press,
}: {
  clock: Schemas["ClockOut"];
  press: (what: Press) => void;
}) {
  const { briefing, shown } = clock;
  if (shown === null) {
    return (
      <Button variant="default" onClick={() => press("show next")}>
        Screens: show the movements ({briefing.length})
      </Button>
    );
  }
  const next = briefing[shown + 1];
  return (
    <>
      <Button variant="default" onClick={() => press("show next")}>
        {next ? `Next movement: ${next.movement}` : "Last movement shown"}
      </Button>
      <Button variant="subtle" disabled={shown === 0} onClick={() => press("show before")}>
        Movement before
      </Button>
      {next && (
        <Button variant="subtle" onClick={() => press("show none")}>
          Done showing
        </Button>
      )}
    </>
  );
}
