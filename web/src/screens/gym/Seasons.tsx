// Seasons with other classes than in the rest of the year: each a span with classes by weekday.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { WEEKDAYS } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";
import { NO_DAYS, SpanFields, spanOf, spanText } from "./SpanFields";

type Season = Schemas["ClassSeason"];

/** The classes of a season in words: `Mon 18:00 · Wed 18:00`. */
const inWords = (classes: readonly string[]) =>
  classes
    .map((text, day) => text.trim() && `${WEEKDAYS[day]?.slice(0, 3)} ${text.trim()}`)
    .filter(Boolean)
    .join(" · ") || "no classes";

export function Seasons({
  seasons,
  usual,
  onChange,
}: {
  seasons: readonly Season[];
  usual: readonly string[];
  onChange: (seasons: Season[]) => void;
}) {
  const [typed, setTyped] = useState(NO_DAYS);
  const [name, setName] = useState("");
  const [classes, setClasses] = useState<readonly string[] | null>(null);
  const span = spanOf(typed);
  const shown = classes ?? WEEKDAYS.map((_, day) => usual[day] ?? "");
  const add = () => {
    if (span) onChange([...seasons, { ...span, name: name.trim(), classes: [...shown] }]);
    setTyped(NO_DAYS);
    setName("");
    setClasses(null);
  };
  return (
    <fieldset className={fieldStyles.known} id="seasons">
      <legend>Seasons</legend>
      <p>In a season these classes are held in place of the usual week's.</p>
      <ul>
        {seasons.map((one) => (
          <li key={`${one.name}${one.first}`}>
            <span>
              <b>{one.name}</b> {spanText(one)}
              {one.yearly && " · every year"}: {inWords(one.classes)}
            </span>
            <Button
              size="compact-sm"
              variant="subtle"
              aria-label={`Remove ${one.name}`}
              onClick={() => onChange(seasons.filter((other) => other !== one))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className={fieldStyles.add} data-labels>
        <TextInput
          size="xs"
          label="Season"
          placeholder="Summer"
          maxLength={40}
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <SpanFields span={typed} onChange={setTyped} />
        <Button
          size="compact-sm"
          variant="default"
          disabled={!span || !name.trim()}
          aria-label="Add season"
          onClick={add}
        >
          Add
        </Button>
      </div>
      {span && (
        <div className={fieldStyles.rungPicks}>
          {WEEKDAYS.map((day, at) => (
            <TextInput
              key={day}
              label={`${day} in the season`}
              size="xs"
              value={shown[at] ?? ""}
              onChange={(event) =>
                setClasses(
                  shown.map((text, other) => (other === at ? event.currentTarget.value : text)),
                )
              }
            />
          ))}
        </div>
      )}
    </fieldset>
  );
}
