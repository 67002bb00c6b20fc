// On the phone, around the class: checking in before it, effort and a note after it.
import { Button, NumberInput, Textarea } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../api/client";
import { myClasses, myEffort } from "../api/queries";

export function CheckIn({ date }: { date: string }) {
  const client = useQueryClient();
  const found = useQuery(myClasses(date));
  if (!found.data || found.data.classes.length === 0) return null;
  const { classes, readiness, pain } = found.data;
  const flip = async (start: string, here: boolean) => {
    await ask(
      api.PUT("/api/me/days/{date}/check-in", {
        params: { path: { date } },
        body: { start, here },
      }),
    );
    client.invalidateQueries({ queryKey: ["my-classes", date] });
  };
  return (
    <section className="check-in" aria-label="Check in">
      {classes.map((one) => (
        <Button
          key={one.start}
          variant={one.here ? "filled" : "default"}
          aria-pressed={one.here}
          onClick={() => flip(one.start, !one.here)}
        >
          {one.start.slice(0, 5)} {one.here ? "I am in" : `· ${one.others} in`}
        </Button>
      ))}
      {readiness && (
        <p className="safety">
          <b>{pain}</b> {readiness}
        </p>
      )}
    </section>
  );
}

export function Effort({ date, minutes }: { date: string; minutes: number }) {
  const client = useQueryClient();
  const kept = useQuery(myEffort(date));
  const [effort, setEffort] = useState<number | string>("");
  const [length, setLength] = useState<number | string>("");
  const [note, setNote] = useState<string | null>(null);
  const [said, setSaid] = useState("");
  const value = effort === "" ? (kept.data?.effort ?? "") : effort;
  const keep = async () => {
    try {
      await ask(
        api.PUT("/api/me/days/{date}/effort", {
          params: { path: { date } },
          body: {
            effort: Number(value),
            minutes: Number(length === "" ? (kept.data?.minutes ?? minutes) : length),
            note: note ?? kept.data?.note ?? "",
          },
        }),
      );
      setSaid("Kept.");
    } catch (error) {
      setSaid((error as Error).message);
    }
    client.invalidateQueries({ queryKey: ["my-effort", date] });
    client.invalidateQueries({ queryKey: ["history"] });
  };
  return (
    <section className="effort">
      <h3>After class</h3>
      <NumberInput
        label="Effort, 0 (nothing) to 10 (as hard as it can be)"
        min={0}
        max={10}
        step={0.5}
        value={value}
        onChange={setEffort}
      />
      <NumberInput
        label="Minutes"
        min={1}
        max={600}
        value={length === "" ? (kept.data?.minutes ?? minutes) : length}
        onChange={setLength}
      />
      <Textarea
        label="Note, for me and the coach"
        autosize
        value={note ?? kept.data?.note ?? ""}
        onChange={(event) => setNote(event.currentTarget.value)}
      />
      <Button mt="sm" disabled={value === ""} onClick={keep}>
        Keep effort
      </Button>{" "}
      <span role="status">{said}</span>
    </section>
  );
}
