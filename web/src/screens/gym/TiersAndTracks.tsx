// Tiers and tracks: renamed, added, merged. What a merge does is said before it is done.
import { Button, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import fieldStyles from "../../ui/fields.module.css";
import { Failed, Waiting } from "../../ui/states";
import wordStyles from "../../ui/words.module.css";

type Column = Schemas["ColumnName"];
type Form = Schemas["ShapeForm"];
interface Columns {
  names: Column[];
  into: Record<string, number>;
}

const few = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`;

/** What merging does, in a sentence. */
function told(one: Schemas["Merge"]): string {
  const moved = `${few(one.people, "person", "people")} and ${few(one.scores, "score", "scores")} move from ${one.gone} to ${one.into}`;
  return one.boards
    ? `${moved}; ${few(one.boards, "board loses", "boards lose")} its column.`
    : `${moved}.`;
}

function List({
  title,
  what,
  there,
  columns,
  onChange,
}: {
  title: string;
  what: string;
  there: readonly string[];
  columns: Columns;
  onChange: (columns: Columns) => void;
}) {
  const names = (at: number, name: string) =>
    columns.names.map((one, i) => (i === at ? { ...one, name } : one));
  const drop = (at: number) => {
    const { was } = columns.names[at] as Column;
    const rest = columns.names.filter((_, i) => i !== at);
    const into = { ...columns.into };
    // Whoever merged into it before goes on to its heir.
    if (was !== null && was !== undefined) {
      const heir = rest.filter((one) => typeof one.was === "number").at(-1)?.was ?? 0;
      for (const [gone, to] of Object.entries(into)) if (to === was) into[gone] = heir;
      into[was] = heir;
    }
    onChange({ names: rest, into });
  };
  const kept = columns.names.filter((one) => typeof one.was === "number");
  return (
    <fieldset className={fieldStyles.known}>
      <legend>{title}</legend>
      <ul>
        {columns.names.map((one, at) => (
          // Its place today, or its place among the new ones.
          <li key={one.was ?? `new ${at}`}>
            <TextInput
              aria-label={`${what} ${at + 1}`}
              size="xs"
              value={one.name}
              onChange={(event) =>
                onChange({ ...columns, names: names(at, event.currentTarget.value) })
              }
            />
            {at > 0 && (
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Remove ${one.name || `${what} ${at + 1}`}`}
                onClick={() => drop(at)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {Object.entries(columns.into).map(([gone, to]) => (
        <NativeSelect
          key={gone}
          size="xs"
          label={`${there[Number(gone)]} is merged into`}
          value={String(to)}
          data={kept.map((one) => ({ value: String(one.was), label: one.name }))}
          onChange={(event) =>
            onChange({
              ...columns,
              into: { ...columns.into, [gone]: Number(event.currentTarget.value) },
            })
          }
        />
      ))}
      <Button
        size="compact-sm"
        variant="default"
        onClick={() => onChange({ ...columns, names: [...columns.names, { was: null, name: "" }] })}
      >
        Add a {what}
      </Button>
    </fieldset>
  );
}

const asThere = (names: readonly string[]): Columns => ({
  names: names.map((name, was) => ({ was, name })),
  into: {},
});

function Editor({ initial }: { initial: Schemas["Shape"] }) {
  const [shape, setShape] = useState(initial);
  const [tiers, setTiers] = useState(() => asThere(shape.tiers));
  const [tracks, setTracks] = useState(() => asThere(shape.tracks));
  const [look, setLook] = useState<readonly Schemas["Merge"][] | null>(null);
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState("");
  const form: Form = { tiers, tracks, version: shape.version };
  const refused = { onRefused: (refusal: { message: string }) => setProblem(refusal.message) };
  const keep = useWrite((body: Form) => ask(api.PUT("/api/shape", { body })), {
    ...refused,
    onDone: (done) => {
      setShape(done);
      setTiers(asThere(done.tiers));
      setTracks(asThere(done.tracks));
      setLook(null);
      setSaid("Saved.");
    },
    touches: () => [[]],
  });
  const first = useWrite((body: Form) => ask(api.POST("/api/shape/look", { body })), {
    ...refused,
    onDone: (found, sent) => (found.length ? setLook(found) : keep.mutate(sent)),
  });
  const change = <T,>(set: (value: T) => void) => {
    return (value: T) => {
      set(value);
      setLook(null);
      setSaid("");
      setProblem("");
    };
  };
  return (
    <section aria-label="Tiers and tracks" className={fieldStyles.profile}>
      <div className={fieldStyles.columns}>
        <List
          title="Tiers"
          what="tier"
          there={shape.tiers}
          columns={tiers}
          onChange={change(setTiers)}
        />
        <List
          title="Load tracks"
          what="track"
          there={shape.tracks}
          columns={tracks}
          onChange={change(setTracks)}
        />
        <div className={fieldStyles.known}>
          <p>
            The first tier is the board as written; each further one is a column after | on a line.
            The first track takes the first number of 24/16 kg.
          </p>
          {look?.map((one) => (
            <p key={one.gone} role="status">
              {told(one)}
            </p>
          ))}
          {problem && (
            <p role="alert" className={wordStyles.cellWords} data-state="refused">
              {problem}
            </p>
          )}
          <div className={fieldStyles.lineTools}>
            {look ? (
              <Button key="merge" onClick={() => keep.mutate(form)} loading={keep.isPending}>
                Yes, merge
              </Button>
            ) : (
              <Button key="look" onClick={() => first.mutate(form)} loading={first.isPending}>
                Save tiers and tracks
              </Button>
            )}
            {said && <span role="status">{said}</span>}
          </div>
        </div>
      </div>
    </section>
  );
}

export function TiersAndTracks() {
  const found = useQuery({
    queryKey: keys.shape,
    queryFn: ({ signal }) => ask(api.GET("/api/shape", { signal })),
  });
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Waiting />;
  return <Editor initial={found.data} />;
}
