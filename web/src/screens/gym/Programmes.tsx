// Programmes: lines of sessions beside each other, each with its own days, classes and scores.
import { Button, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { programmes as programmesQuery } from "../../api/queries";
import { useWrite } from "../../api/writes";
import fieldStyles from "../../ui/fields.module.css";
import { Failed, Waiting } from "../../ui/states";
import { undoable } from "../../ui/undoable";
import wordStyles from "../../ui/words.module.css";
import styles from "./Programmes.module.css";

type Held = Schemas["ProgrammeHeld"];

const TOUCHES = () => [keys.programmes, keys.gym, keys.me, keys.people];

function Row({ one, onKept }: { one: Held; onKept: (list: Held[]) => void }) {
  const [name, setName] = useState(one.name);
  const [problem, setProblem] = useState("");
  const path = { programme_id: one.id };
  const said = {
    onDone: onKept,
    onRefused: (refusal: { message: string }) => setProblem(refusal.message),
    touches: TOUCHES,
  };
  const rename = useWrite(
    () => ask(api.PUT("/api/programmes/{programme_id}", { params: { path }, body: { name } })),
    said,
  );
  const restore = useWrite(
    () => ask(api.POST("/api/programmes", { body: { name: one.name } })),
    said,
  );
  const remove = useWrite(
    () => ask(api.DELETE("/api/programmes/{programme_id}", { params: { path } })),
    {
      ...said,
      onDone: (list) => {
        onKept(list);
        undoable(`Removed ${one.name}.`, () => restore.mutate(undefined));
      },
    },
  );
  const written = one.days === 1 ? "1 day written" : `${one.days} days written`;
  return (
    <li>
      <form
        className={fieldStyles.lineTools}
        aria-label={`Programme ${one.name}`}
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          rename.mutate(undefined);
        }}
      >
        <TextInput
          aria-label={`Name of ${one.name}`}
          size="xs"
          value={name}
          onChange={(event) => {
            setName(event.currentTarget.value);
            setProblem("");
          }}
        />
        <span>{written}</span>
        {name !== one.name && (
          <Button type="submit" size="compact-sm" variant="default" loading={rename.isPending}>
            Save name
          </Button>
        )}
        {!one.first && (
          <Button
            size="compact-sm"
            variant="subtle"
            aria-label={`Remove ${one.name}`}
            onClick={() => remove.mutate(undefined)}
          >
            Remove
          </Button>
        )}
      </form>
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
    </li>
  );
}

export function Programmes() {
  const client = useQueryClient();
  const found = useQuery(programmesQuery);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState("");
  const kept = (list: Held[]) => client.setQueryData(keys.programmes, list);
  const add = useWrite(() => ask(api.POST("/api/programmes", { body: { name } })), {
    onDone: (list) => {
      kept(list);
      setName("");
    },
    onRefused: (refusal) => setProblem(refusal.message),
    touches: TOUCHES,
  });
  return (
    <section className={`${fieldStyles.known} ${styles.programmes}`} aria-label="Programmes">
      <h2>Programmes</h2>
      <p>
        Each has its own days, classes and scores; the first is everybody's who follows no other.
        With more than one, the one that is looked at is chosen at the top of every screen, the
        classes of the week above with it.
      </p>
      {found.error && <Failed error={found.error} retry={() => found.refetch()} />}
      {found.isPending && <Waiting />}
      <ul>
        {found.data?.map((one) => (
          <Row key={`${one.id} ${one.name}`} one={one} onKept={kept} />
        ))}
      </ul>
      <form
        className={fieldStyles.add}
        aria-label="Add a programme"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          add.mutate(undefined);
        }}
      >
        <TextInput
          aria-label="Name of a new programme"
          placeholder="Evening line"
          size="xs"
          value={name}
          error={problem}
          onChange={(event) => {
            setName(event.currentTarget.value);
            setProblem("");
          }}
        />
        <Button type="submit" size="compact-sm" variant="default" loading={add.isPending}>
          Add
        </Button>
      </form>
    </section>
  );
}
