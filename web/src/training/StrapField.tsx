// The heart rate strap somebody wears: by themselves, or handed out by a coach.
import { Button, NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../api/client";
import { keys } from "../api/keys";
import { strap } from "../api/queries";
import { useWrite } from "../api/writes";
import fieldStyles from "../ui/fields.module.css";

export function StrapField({ athlete }: { athlete: number | null }) {
  const found = useQuery(strap(athlete));
  const [typed, setTyped] = useState<number | string>();
  const [problem, setProblem] = useState("");
  const [said, setSaid] = useState("");
  const keep = useWrite(
    (number: number | null) =>
      ask(
        athlete === null
          ? api.PUT("/api/me/strap", { body: { number } })
          : api.PUT("/api/athletes/{athlete_id}/strap", {
              params: { path: { athlete_id: athlete } },
              body: { number },
            }),
      ),
    {
      onDone: ({ number }) => {
        setTyped(undefined);
        setSaid(number === null ? "No strap is worn." : `Strap ${number} is worn from now on.`);
      },
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.strap(athlete), keys.days],
    },
  );
  const forget = useWrite(() => ask(api.DELETE("/api/me/hearts")), {
    onDone: () => setSaid("Forgotten."),
    touches: () => [keys.mine, keys.days],
  });
  // Where nothing listens and nothing is worn there is nothing to ask.
  if (!found.data || !(found.data.heard || found.data.number !== null)) return null;
  const value = typed ?? found.data.number ?? "";
  return (
    <form
      className={`${fieldStyles.known} stack`}
      aria-label="Heart rate strap"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate(typeof value === "number" ? value : null);
      }}
    >
      <h2>Heart rate strap</h2>
      <p>
        {athlete === null
          ? "Its number, while I wear one: my phone shows what it says, and how long I was in the range of easy and hard parts is kept for me alone. It tells whether easy is easy and nothing of my health."
          : "Its number, while they wear one. What it says is for them alone, and for displays where they let it be shown."}
        {!found.data.heard && " Nothing listens to straps at present."}
      </p>
      <NumberInput
        label="Strap number"
        min={1}
        max={255}
        allowDecimal={false}
        value={value}
        error={problem}
        onChange={(number) => {
          setTyped(number);
          setProblem("");
          setSaid("");
        }}
      />
      <div className={fieldStyles.lineTools}>
        <Button type="submit" variant="default" loading={keep.isPending}>
          Save strap
        </Button>
        {athlete === null && (
          <Button variant="subtle" color="red" onClick={() => forget.mutate(undefined)}>
            Delete my heart-rate data
          </Button>
        )}
        {said && <span role="status">{said}</span>}
      </div>
    </form>
  );
}
