// Copying a day a week on: each stated step is accepted or left, one by one.
import { Button, Checkbox, Modal } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { keys } from "../../api/keys";
import { shift, spoken } from "../../ui/dates";
import { Failed, Waiting } from "../../ui/states";

export function StepForward({
  date,
  onDone,
  onClose,
}: {
  date: string;
  onDone: (accept: string[]) => void;
  onClose: () => void;
}) {
  const [accepted, setAccepted] = useState<string[]>([]);
  const steps = useQuery({
    queryKey: keys.steps(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/steps", { signal, params: { path: { date } } })),
    gcTime: 0,
  });
  return (
    <Modal opened onClose={onClose} title={`Copy to ${spoken(shift(date, 7))} with steps`}>
      {steps.error && <Failed error={steps.error} />}
      {steps.isPending && <Waiting />}
      {steps.data && (
        <div className="stack">
          {steps.data.length === 0 && <p>This day has no stated step; it is copied as it is.</p>}
          {steps.data.map((step) => (
            <Checkbox
              key={step.key}
              label={step.label}
              checked={accepted.includes(step.key)}
              onChange={(event) => {
                const on = event.currentTarget.checked;
                setAccepted((all) => (on ? [...all, step.key] : all.filter((k) => k !== step.key)));
              }}
            />
          ))}
          <Button onClick={() => onDone(accepted)}>
            Copy with {accepted.length} {accepted.length === 1 ? "step" : "steps"}
          </Button>
        </div>
      )}
    </Modal>
  );
}
