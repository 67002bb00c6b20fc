// The days on which the gym is closed: each a day or a span, this year's or every year's.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import fieldStyles from "../../ui/fields.module.css";
import { NO_DAYS, SpanFields, spanOf, spanText } from "./SpanFields";

type Closing = Schemas["Closing"];

export function ClosingDays({
  days,
  onChange,
}: {
  days: readonly Closing[];
  onChange: (days: Closing[]) => void;
}) {
  const [typed, setTyped] = useState(NO_DAYS);
  const [reason, setReason] = useState("");
  const span = spanOf(typed);
  const add = () => {
    if (span) onChange([...days, { ...span, reason: reason.trim() }]);
    setTyped(NO_DAYS);
    setReason("");
  };
  return (
    <fieldset className={fieldStyles.known} id="closing-days">
      <legend>Closing days</legend>
      <p>No class of the week is held on these days; members see the reason.</p>
      <ul>
        {[...days]
          .sort((a, b) => a.first.localeCompare(b.first))
          .map((one) => (
            <li key={`${one.first}${one.last}${one.reason}`}>
              <span>
                {spanText(one)}
                {one.reason && ` · ${one.reason}`}
                {one.yearly && " · every year"}
              </span>
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Remove ${spanText(one)}`}
                onClick={() => onChange(days.filter((other) => other !== one))}
              >
                Remove
              </Button>
            </li>
          ))}
      </ul>
      <div className={fieldStyles.add} data-labels>
        <SpanFields span={typed} onChange={setTyped} />
        <TextInput
          size="xs"
          label="Reason"
          placeholder="Christmas"
          maxLength={60}
          value={reason}
          onChange={(event) => setReason(event.currentTarget.value)}
        />
        <Button
          size="compact-sm"
          variant="default"
          disabled={!span}
          aria-label="Add closing days"
          onClick={add}
        >
          Add
        </Button>
      </div>
    </fieldset>
  );
}
