// Starting from an earlier day or piece: found by words, movement, programme and date.
import { Autocomplete, Button, Checkbox, Select, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { boardWords, earlier } from "../../../api/queries";
import { HourRuler } from "../../../training/HourRuler";
import { brief } from "../../../ui/dates";
import { Failed, Waiting } from "../../../ui/states";
import styles from "./Earlier.module.css";

type Day = Schemas["EarlierDay"];

/** One day found: its hour, the whole of it, and its pieces one by one. */
function Found({
  day,
  stepped,
  onDay,
  onPiece,
}: {
  day: Day;
  stepped: boolean;
  onDay: (text: string) => void;
  onPiece: (text: string) => void;
}) {
  const chosen = (one: { text: string; stepped: string | null }) =>
    stepped ? (one.stepped ?? one.text) : one.text;
  const said = `${day.board.title || "Untitled"}, ${brief(day.date)}`;
  return (
    <li className={styles.found}>
      <header>
        <b>{day.board.title || "Untitled"}</b>
        <span>
          {brief(day.date)} {day.date.slice(0, 4)} · {day.programme}
        </span>
        <Button
          size="compact-sm"
          variant="default"
          aria-label={`Whole day: ${said}`}
          onClick={() => onDay(chosen(day.board))}
        >
          Whole day
        </Button>
      </header>
      <HourRuler outline={day.outline} of={said} slim bare />
      <ul className={styles.pieces}>
        {day.board.pieces.map((piece) => (
          <li key={piece.text} data-found={piece.found || undefined}>
            <button
              type="button"
              title={chosen(piece)}
              aria-label={`Piece: ${piece.title}, ${piece.format}, of ${said}`}
              onClick={() => onPiece(chosen(piece))}
            >
              {piece.title} <small>{piece.format}</small>
              {stepped && piece.stepped && <em>stepped up</em>}
            </button>
          </li>
        ))}
      </ul>
    </li>
  );
}

export function Earlier({
  date,
  programmes,
  onDay,
  onPiece,
}: {
  date: string;
  programmes: readonly string[];
  onDay: (text: string) => void;
  onPiece: (text: string) => void;
}) {
  const names = useQuery(boardWords);
  const [said, setSaid] = useState({ words: "", movement: "", since: "", until: "" });
  const [programme, setProgramme] = useState<string | null>(null);
  const [stepped, setStepped] = useState(false);
  const [settled] = useDebouncedValue(said, 250);
  const found = useQuery(
    earlier(date, {
      words: settled.words,
      movement: settled.movement,
      programme: programme ?? "",
      ...(settled.since && { since: settled.since }),
      ...(settled.until && { until: settled.until }),
    }),
  );
  const say = (more: Partial<typeof said>) => setSaid((before) => ({ ...before, ...more }));
  return (
    <div>
      <div className={styles.sought}>
        <TextInput
          label="Words"
          placeholder="a title, a name, a format"
          value={said.words}
          onChange={(event) => say({ words: event.currentTarget.value })}
        />
        <Autocomplete
          label="Movement"
          limit={8}
          data={names.data?.movements.map((movement) => movement.name) ?? []}
          value={said.movement}
          onChange={(movement) => say({ movement })}
        />
        <TextInput
          label="From"
          type="date"
          value={said.since}
          onChange={(event) => say({ since: event.currentTarget.value })}
        />
        <TextInput
          label="Until"
          type="date"
          value={said.until}
          onChange={(event) => say({ until: event.currentTarget.value })}
        />
        {programmes.length > 1 && (
          <Select
            label="Programme"
            placeholder="any"
            clearable
            data={[...programmes]}
            value={programme}
            onChange={setProgramme}
          />
        )}
        <Checkbox
          label="stepped up"
          checked={stepped}
          onChange={(event) => setStepped(event.currentTarget.checked)}
        />
      </div>
      {found.error && <Failed error={found.error} />}
      {found.isPending && <Waiting what="Looking" />}
      {found.data?.length === 0 && <p>No earlier board holds that.</p>}
      <ul className={styles.list} aria-label="Earlier days">
        {found.data?.map((day) => (
          <Found
            key={`${day.date} ${day.programme}`}
            day={day}
            stepped={stepped}
            onDay={onDay}
            onPiece={onPiece}
          />
        ))}
      </ul>
    </div>
  );
}
