// The programmes that somebody looks at: a coach at all of them, a member at those they follow.
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "./client";
import type { Line } from "./programme";
import { gym } from "./queries";

export type Named = { line: Line; name: string };

export function useLines(me: Schemas["Me"] | undefined): Named[] {
  const all = useQuery({ ...gym, enabled: me !== undefined }).data?.programmes ?? [];
  return all.flatMap(({ id, name }, place) =>
    me && (me.role === "coach" || me.programmes.includes(id))
      ? [{ line: place ? id : null, name }]
      : [],
  );
}
