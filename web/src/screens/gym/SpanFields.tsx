// From a day to a day, this year or every year: the fields that closing days and seasons share.
import { Checkbox, TextInput } from "@mantine/core";
import { brief as dateText } from "../../ui/dates";

/** Days as they are typed; an empty last day is the first. */
export type Span = { first: string; last: string; yearly: boolean };

export const NO_DAYS: Span = { first: "", last: "", yearly: false };

/** The days of a span in words: `24 Dec – 1 Jan`. */
export const spanText = (one: { first: string; last: string }) =>
  one.first === one.last ? dateText(one.first) : `${dateText(one.first)} – ${dateText(one.last)}`;

/** The span as it is kept, with its last day; null where none is typed or it runs backwards. */
export function spanOf(typed: Span): Span | null {
  const last = typed.last || typed.first;
  return typed.first && last >= typed.first ? { ...typed, last } : null;
}

export function SpanFields({ span, onChange }: { span: Span; onChange: (span: Span) => void }) {
  const backwards = Boolean(span.first && span.last) && span.last < span.first;
  return (
    <>
      <TextInput
        type="date"
        size="xs"
        label="From"
        value={span.first}
        onChange={(event) => onChange({ ...span, first: event.currentTarget.value })}
      />
      <TextInput
        type="date"
        size="xs"
        label="To"
        min={span.first}
        value={span.last}
        error={backwards && "ends before it begins"}
        onChange={(event) => onChange({ ...span, last: event.currentTarget.value })}
      />
      <Checkbox
        size="xs"
        label="Every year"
        checked={span.yearly}
        onChange={(event) => onChange({ ...span, yearly: event.currentTarget.checked })}
      />
    </>
  );
}
