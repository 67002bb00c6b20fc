// A number pad made for the piece: reps, loads in the steps of small plates, or minutes and seconds.
import { Button, Modal, NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { nextPlace } from "../../../offline/roundTimes";
import styles from "./Floor.module.css";
import { type Place, shownIn } from "./useRoundTimes";

type Unit = Schemas["Strip"]["unit"];

const STEPS: Record<Exclude<Unit, "kg">, readonly number[]> = { reps: [1, 5, 10], s: [1, 5, 30] };
const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const MOST = 6;

/** Digits typed as a time: the last two are seconds. */
const asTime = (digits: string) =>
  digits.length < 3 ? digits : `${digits.slice(0, -2)}:${digits.slice(-2)}`;

/** What a step makes of digits that were typed, or of the number that stood there. */
export function stepped(unit: Unit, typed: string, before: number, by: number): string {
  if (unit !== "s") return String(Math.max(0, (typed ? Number(typed) : before) + by));
  const minutes = typed.length > 2 ? Number(typed.slice(0, -2)) : 0;
  const stood = typed ? minutes * 60 + Number(typed.slice(-2)) : before;
  const sum = Math.max(0, stood + by);
  const two = String(sum % 60).padStart(2, "0");
  return sum < 60 ? String(sum) : `${Math.floor(sum / 60)}${two}`;
}

export function NumberPad({
  name,
  unit,
  loadSteps,
  places,
  noted,
  onNote,
  onStop,
  onClose,
}: {
  name: string;
  unit: Unit;
  /** What a pair of the gym's plates adds, in kg. */
  loadSteps: readonly number[];
  places: readonly Place[];
  noted: Record<number, number | null>;
  onNote: (round: number, text: string) => boolean;
  onStop: () => void;
  onClose: () => void;
}) {
  const named = { more: true, labels: [] };
  const [round, setRound] = useState(() => {
    const next = nextPlace(named, noted);
    return places.some((one) => one.round === next) ? next : (places.at(-1)?.round ?? 1);
  });
  const [typed, setTyped] = useState("");
  const steps = unit === "kg" ? loadSteps : STEPS[unit];
  const there = shownIn(unit, noted[round ?? 1] ?? null);
  const shown = unit === "s" ? asTime(typed) : typed;
  const add = (by: number) => {
    // From what stands: typed here, noted before, or the round before.
    const before = noted[round ?? 1] ?? noted[(round ?? 1) - 1] ?? 0;
    setTyped(stepped(unit, typed, before, by));
  };
  const note = () => {
    if (round !== null && onNote(round, shown)) onClose();
  };
  return (
    <Modal opened onClose={onClose} title={name} centered>
      <div className={styles.padBox}>
        <NativeSelect
          label="Place"
          value={String(round)}
          data={places.map((one) => ({ value: String(one.round), label: one.label }))}
          onChange={(event) => {
            setRound(Number(event.currentTarget.value));
            setTyped("");
          }}
        />
        <output className="num" aria-label="Number">
          {shown || there || "–"} <small>{unit === "s" ? "" : unit}</small>
        </output>
        <div className={styles.padSteps}>
          {steps.map((step) => (
            <Button key={step} variant="default" onClick={() => add(step)}>
              +{step}
            </Button>
          ))}
          {steps.map((step) => (
            <Button key={-step} variant="default" onClick={() => add(-step)}>
              −{step}
            </Button>
          ))}
        </div>
        <div className={styles.padKeys}>
          {DIGITS.map((digit) => (
            <Button
              key={digit}
              variant="default"
              onClick={() => setTyped((typed + digit).slice(-MOST))}
            >
              {digit}
            </Button>
          ))}
          {unit === "kg" ? (
            <Button
              variant="default"
              aria-label="point"
              onClick={() => !typed.includes(".") && setTyped(`${typed}.`)}
            >
              .
            </Button>
          ) : (
            <span />
          )}
          <Button variant="default" onClick={() => setTyped(`${typed}0`.slice(-MOST))}>
            0
          </Button>
          <Button
            variant="default"
            aria-label="take the last digit back"
            onClick={() => setTyped(typed.slice(0, -1))}
          >
            ⌫
          </Button>
        </div>
        <div className={styles.padSteps}>
          <Button disabled={!typed} onClick={note}>
            Note it
          </Button>
          {there && (
            <Button
              variant="default"
              onClick={() => {
                if (round !== null && onNote(round, "")) onClose();
              }}
            >
              Take {there} back
            </Button>
          )}
          <Button variant="default" onClick={onStop}>
            Stops early
          </Button>
        </div>
      </div>
    </Modal>
  );
}
