// A list of people as it was pasted: looked at first, line by line, then added whole.
import { Button, Checkbox, Textarea } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { FromFile } from "../../ui/FromFile";
import fieldStyles from "../../ui/fields.module.css";
import styles from "./People.module.css";

type Line = Schemas["RosterLine"];

const MAY = new Set<Line["what"]>(["new", "changed", "doubtful"]);

export function ImportPeople({ gym }: { gym: Schemas["GymOut"] }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [lines, setLines] = useState<readonly Line[] | null>(null);
  const [taken, setTaken] = useState<ReadonlySet<number>>(new Set());
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState("");
  const refused = { onRefused: (refusal: { message: string }) => setProblem(refusal.message) };
  const read = useWrite((body: Schemas["Roster"]) => ask(api.POST("/api/people/read", { body })), {
    ...refused,
    onDone: (found) => {
      setLines(found);
      setTaken(
        new Set(
          found
            .filter((one) => one.what === "new" || one.what === "changed")
            .map((one) => one.line),
        ),
      );
    },
  });
  const add = useWrite(
    (body: Schemas["NewPeople"]) => ask(api.POST("/api/people/many", { body })),
    {
      ...refused,
      onDone: (people) => {
        setSaid(
          `${people.length} ${people.length === 1 ? "person is" : "people are"} in as the list says.`,
        );
        setText("");
        setLines(null);
      },
      touches: () => [keys.people, keys.athletes, keys.days],
    },
  );
  if (!open) {
    return (
      <Button size="compact-sm" variant="default" onClick={() => setOpen(true)}>
        Import a list
      </Button>
    );
  }
  const change = (value: string) => {
    setText(value);
    setLines(null);
    setSaid("");
    setProblem("");
  };
  const chosen = (lines ?? []).filter((one) => taken.has(one.line));
  const changes = chosen.flatMap((one) =>
    one.what === "changed" && one.person
      ? [{ id: one.person, ...Object.fromEntries((one.changes ?? []).map((f) => [f, one[f]])) }]
      : [],
  );
  const people = chosen
    .filter((one) => one.what !== "changed")
    .map(({ name, email, tier, track, role, trains }) => ({
      name: name ?? "",
      email: email ?? "",
      role: role ?? ("athlete" as const),
      trains: trains ?? true,
      tier: tier ?? 0,
      track: track ?? 0,
    }));
  return (
    <section className={styles.paste} aria-label="Import a list">
      <Textarea
        label="A line for each person"
        description={`Name, address, tier and track, as far as they are known: Ada Quill, ada@example.org, ${gym.tiers[1] ?? gym.tiers[0]}`}
        autosize
        minRows={4}
        maxRows={12}
        value={text}
        onChange={(event) => change(event.currentTarget.value)}
      />
      <div className={fieldStyles.lineTools}>
        <FromFile onText={change} />
        <Button
          size="compact-sm"
          disabled={!text.trim()}
          loading={read.isPending}
          onClick={() => read.mutate({ text })}
        >
          Look at it
        </Button>
        <Button size="compact-sm" variant="subtle" onClick={() => setOpen(false)}>
          Close
        </Button>
      </div>
      {problem && <p role="alert">{problem}</p>}
      {said && <p role="status">{said}</p>}
      {lines && (
        <>
          <table className={styles.people}>
            <thead>
              <tr>
                <th>Take</th>
                <th>Name</th>
                <th>E-mail</th>
                <th>Tier</th>
                <th>What it is</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((one) => (
                <tr key={one.line} data-what={one.what}>
                  <td>
                    {MAY.has(one.what) && (
                      <Checkbox
                        aria-label={`Take ${one.name}, line ${one.line}`}
                        checked={taken.has(one.line)}
                        onChange={() =>
                          setTaken((now) => {
                            const next = new Set(now);
                            if (!next.delete(one.line)) next.add(one.line);
                            return next;
                          })
                        }
                      />
                    )}
                  </td>
                  <th scope="row">{one.name || one.text}</th>
                  <td>{one.email}</td>
                  <td>
                    {one.name && gym.tiers[one.tier ?? 0]}{" "}
                    <small>{one.name && gym.tracks[one.track ?? 0]?.toLowerCase()}</small>
                  </td>
                  <td>{one.why ? `${one.what}: ${one.why}` : one.what}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button
            disabled={chosen.length === 0}
            loading={add.isPending}
            onClick={() => add.mutate({ people, changes })}
          >
            {[
              people.length > 0 || changes.length === 0 ? `Add ${people.length}` : "",
              changes.length > 0 ? `change ${changes.length}` : "",
            ]
              .filter(Boolean)
              .join(", ")
              .replace(/^c/, "C")}
          </Button>
        </>
      )}
    </section>
  );
}
