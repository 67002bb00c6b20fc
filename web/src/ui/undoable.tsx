// What was removed is told, with a way back for ten seconds.
import { Button, Group } from "@mantine/core";
import { notifications } from "@mantine/notifications";

export const UNDO_MS = 10_000;

/** Say what was removed; `back` is done when its undoing is pressed within ten seconds. */
export function undoable(said: string, back: () => void): void {
  const id = notifications.show({
    autoClose: UNDO_MS,
    message: (
      <Group justify="space-between">
        <span>{said}</span>
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            notifications.hide(id);
            back();
          }}
        >
          Undo
        </Button>
      </Group>
    ),
  });
}
