// Wishes for a draft, as fields and as the body of a request.
import { Checkbox, TextInput } from "@mantine/core";
import { useState } from "react";

const listed = (text: string) =>
  text
    .split(",")
    .map((word) => word.trim())
    .filter(Boolean);

/** Three fields of wishes, and what they say. */
export function useDraftWishes() {
  const [want, setWant] = useState("");
  const [avoid, setAvoid] = useState("");
  const [noRunning, setNoRunning] = useState(false);
  const fields = (
    <>
      <TextInput
        label="With"
        placeholder="pull-up, squat"
        value={want}
        onChange={(event) => setWant(event.currentTarget.value)}
      />
      <TextInput
        label="Without"
        placeholder="jumping, overhead"
        value={avoid}
        onChange={(event) => setAvoid(event.currentTarget.value)}
      />
      <Checkbox
        label="No running"
        checked={noRunning}
        onChange={(event) => setNoRunning(event.currentTarget.checked)}
      />
    </>
  );
  return { fields, wishes: { want: listed(want), avoid: listed(avoid), no_running: noRunning } };
}
