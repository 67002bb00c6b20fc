// A word the library has not, told to be another name of a movement it has: read so from now on.
import { Autocomplete, Button } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../api/client";
import { useWrite } from "../api/writes";
import fieldStyles from "../ui/fields.module.css";
import wordStyles from "../ui/words.module.css";

export function AnotherWord({
  word,
  names,
  onDone,
}: {
  word: string;
  names: readonly string[];
  onDone: (name: string) => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [problem, setProblem] = useState("");
  const write = useWrite(
    async (of: string) => {
      const { movement } = await ask(
        api.GET("/api/movements/{name}", { params: { path: { name: of } } }),
      );
      const aliases = [...movement.aliases.filter((one) => one !== word), word];
      return ask(api.PUT("/api/movements", { body: { movement: { ...movement, aliases } } }));
    },
    {
      onDone: (kept) => {
        client.invalidateQueries();
        onDone(kept.name);
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  return (
    <fieldset className={`${fieldStyles.lineFields} ${fieldStyles.even}`}>
      <legend>“{word}” is another word for a movement</legend>
      <Autocomplete
        label="Movement"
        value={name}
        data={[...names]}
        limit={10}
        onChange={setName}
        error={problem}
      />
      <Button
        type="button"
        variant="default"
        disabled={!names.includes(name)}
        loading={write.isPending}
        onClick={() => write.mutate(name)}
      >
        Remember “{word}”
      </Button>
      <span className={wordStyles.cellWords}>Boards of this gym read it so from now on.</span>
    </fieldset>
  );
}
