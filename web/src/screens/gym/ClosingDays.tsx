// The days on which the gym is closed: each a day or a span, this year's or every year's.
import { Button, Checkbox, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { brief as dateText } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";

type Closing = Schemas["Closing"];

const span = (one: Closing) =>
  one.first === one.last ? dateText(one.first) : `${dateText(one.first)} – ${dateText(one.last)}`;

export function ClosingDays({
  days,
  onChange,
}: {
  days: readonly Closing[];
  onChange: (days: Closing[]) => void;
}) {
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [reason, setReason] = useState("");
  const [yearly, setYearly] = useState(false);
  const ends = last || first;
  const backwards = Boolean(first) && ends < first;
  const add = () => {
    onChange([...days, { first, last: ends, reason: reason.trim(), yearly }]);
    setFirst("");
    setLast("");
    setReason("");
    setYearly(false);
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
                {span(one)}
                {one.reason && ` · ${one.reason}`}
                {one.yearly && " · every year"}
              </span>
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Remove ${span(one)}`}
                onClick={() => onChange(days.filter((other) => other !== one))}
              >
                Remove
              </Button>
            </li>
          ))}
      </ul>
      <div className={fieldStyles.add} data-labels>
        <TextInput
          type="date"
          size="xs"
          label="From"
          value={first}
          onChange={(event) => setFirst(event.currentTarget.value)}
        />
        <TextInput
          type="date"
          size="xs"
          label="To"
          min={first}
          value={last}
          error={backwards && "ends before it begins"}
          onChange={(event) => setLast(event.currentTarget.value)}
        />
        <TextInput
          size="xs"
          label="Reason"
          placeholder="Christmas"
          maxLength={60}
          value={reason}
          onChange={(event) => setReason(event.currentTarget.value)}
        />
        <Checkbox
          size="xs"
          label="Every year"
          checked={yearly}
          onChange={(event) => setYearly(event.currentTarget.checked)}
        />
        <Button
          size="compact-sm"
          variant="default"
          disabled={!first || backwards}
          aria-label="Add closing days"
          onClick={add}
        >
          Add
        </Button>
      </div>
    </fieldset>
  );
}
