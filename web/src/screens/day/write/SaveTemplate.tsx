// A piece kept under a name of the gym's own; typing the name puts it into any board.
import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useWrite } from "../../../api/writes";
import { undoable } from "../../../ui/undoable";
import styles from "./SaveTemplate.module.css";

export function SaveTemplate({
  title,
  text,
  kept,
  onClose,
}: {
  title: string;
  text: string;
  kept: readonly Schemas["Kept"][];
  onClose: () => void;
}) {
  const [name, setName] = useState(title);
  const [refused, setRefused] = useState("");
  const keep = useWrite(() => ask(api.POST("/api/pieces", { body: { name, text } })), {
    onDone: onClose,
    onRefused: (refusal) => setRefused(refusal.message),
    touches: () => [keys.kept],
    said: () => `${name} is kept: Add a piece offers it.`,
  });
  const restore = useWrite(
    (piece: Schemas["Kept"]) =>
      ask(api.POST("/api/pieces", { body: { name: piece.name, text: piece.text } })),
    { touches: () => [keys.kept] },
  );
  const forget = useWrite(
    (piece: Schemas["Kept"]) =>
      ask(api.DELETE("/api/pieces/{piece_id}", { params: { path: { piece_id: piece.id } } })),
    {
      onDone: (_gone, piece) => undoable(`Removed ${piece.name}.`, () => restore.mutate(piece)),
      touches: () => [keys.kept],
    },
  );
  return (
    <Modal opened onClose={onClose} title="Save this piece as a template">
      <form
        className="stack"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(undefined);
        }}
      >
        <TextInput
          data-autofocus
          label="Name"
          description="Typed on a line of its own in any board, it offers the piece."
          maxLength={60}
          value={name}
          error={refused || undefined}
          onChange={(event) => {
            setName(event.currentTarget.value);
            setRefused("");
          }}
        />
        <Button type="submit" loading={keep.isPending} disabled={!name.trim()}>
          Save
        </Button>
      </form>
      {kept.length > 0 && (
        <ul className={styles.kept} aria-label="Templates">
          {kept.map((piece) => (
            <li key={piece.id}>
              <b>{piece.name}</b>
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Delete ${piece.name}`}
                disabled={forget.isPending}
                onClick={() => forget.mutate(piece)}
              >
                Delete
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Modal>
  );
}
