// A warm-up and a cool-down for the work that is on the board, in one press.
import { Button } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import { api, ask } from "../../../api/client";
import { useWrite } from "../../../api/writes";

export function WarmUp({
  text,
  roles,
  onText,
}: {
  text: string;
  /** Roles of the pieces on the board. */
  roles: readonly string[];
  onText: (text: string) => void;
}) {
  const write = useWrite(
    (board: string) => ask(api.POST("/api/warm-ups", { body: { text: board, seed: 1 } })),
    {
      onDone: (made) => {
        onText(made.text);
        notifications.show({ message: `${made.told} Undo takes it back.` });
      },
      onRefused: (refusal) => notifications.show({ message: refusal.message }),
    },
  );
  const missing = [
    !roles.includes("warm-up") && "warm-up",
    !roles.includes("cool-down") && "cool-down",
  ].filter(Boolean);
  if (roles.length === 0 || missing.length === 0) return null;
  return (
    <Button
      size="compact-sm"
      variant="default"
      loading={write.isPending}
      onClick={() => write.mutate(text)}
    >
      Add {missing.join(" and ")}
    </Button>
  );
}
