// Schools of training that a gym chooses between: drafts and checks follow.
import { Select } from "@mantine/core";
import type { Schemas } from "../../api/client";
import fieldStyles from "../../ui/fields.module.css";

type Style = NonNullable<Schemas["Settings"]["style"]>;

const CHOICES: readonly {
  field: keyof Style;
  label: string;
  data: { value: string; label: string }[];
}[] = [
  {
    field: "power",
    label: "Power work",
    data: [
      { value: "rested", label: "One movement, fully rested" },
      { value: "paired", label: "Two paired, one rests while the other works" },
    ],
  },
  {
    field: "warm_up",
    label: "Warm-up",
    data: [
      { value: "preparation", label: "Rounds that prepare the day" },
      { value: "AMRAP", label: "An easy AMRAP" },
    ],
  },
  {
    field: "day",
    label: "Patterns within a day",
    data: [
      { value: "alternating", label: "Alternate" },
      { value: "one pattern", label: "One pattern all day" },
    ],
  },
  {
    field: "repeats",
    label: "From week to week",
    data: [
      { value: "new", label: "Something new" },
      { value: "on purpose", label: "The same again, on purpose" },
    ],
  },
  {
    field: "cycle",
    label: "Cycles",
    data: [
      { value: "linear", label: "Linear: one thing at a time" },
      { value: "undulating", label: "Undulating: volume and intensity in turn" },
    ],
  },
];

export function HowWeTrain({
  style,
  onChange,
}: {
  style: Style | undefined;
  onChange: (style: Style) => void;
}) {
  return (
    <fieldset className={fieldStyles.known} id="how-we-train">
      <legend>How we train</legend>
      <p>Both ways are in use. Drafts and checks follow what you choose, and say so.</p>
      <div className={fieldStyles.rungPicks}>
        {CHOICES.map(({ field, label, data }) => (
          <Select
            key={field}
            label={label}
            size="xs"
            allowDeselect={false}
            value={style?.[field] ?? data[0]?.value ?? null}
            data={data}
            onChange={(value) => value && onChange({ ...style, [field]: value } as Style)}
          />
        ))}
      </div>
    </fieldset>
  );
}
