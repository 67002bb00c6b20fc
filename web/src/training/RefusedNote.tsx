// A note that was refused: why, and the way out besides writing it anew.
import { Button } from "@mantine/core";
import { drop } from "../offline/queue";

export function RefusedNote({ id, words }: { id: string; words: string }) {
  return (
    <p role="alert">
      {words}{" "}
      <Button size="compact-sm" variant="default" onClick={() => drop(id)}>
        Discard
      </Button>
    </p>
  );
}
