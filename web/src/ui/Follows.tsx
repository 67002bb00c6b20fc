// The programmes that somebody follows, ticked.
import { Checkbox } from "@mantine/core";
import type { Schemas } from "../api/client";
import fieldStyles from "./fields.module.css";

export function Follows({
  label,
  lines,
  value,
  onChange,
}: {
  label: string;
  lines: readonly Schemas["ProgrammeOut"][];
  value: readonly number[];
  onChange: (programmes: number[]) => void;
}) {
  return (
    <Checkbox.Group
      aria-label={label}
      value={value.map(String)}
      onChange={(ids) => onChange(ids.map(Number))}
    >
      <div className={fieldStyles.lineTools}>
        {lines.map((one) => (
          <Checkbox key={one.id} size="xs" value={String(one.id)} label={one.name} />
        ))}
      </div>
    </Checkbox.Group>
  );
}
