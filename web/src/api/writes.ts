// Every write of a screen goes through here, under the one error policy of the query client.
import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import type { Refusal } from "./client";

/**
 * A write: `work` sends it, `touches` are the keys to read anew whatever became of it. With
 * `onRefused` the screen says the refusal at its place; without, the policy shows it.
 */
export function useWrite<Sent, Got>(
  work: (sent: Sent) => Promise<Got>,
  {
    touches = () => [],
    onDone,
    onRefused,
  }: {
    touches?: (sent: Sent) => readonly QueryKey[];
    onDone?: (got: Got, sent: Sent) => void;
    onRefused?: (refusal: Refusal, sent: Sent) => void;
  } = {},
) {
  const client = useQueryClient();
  return useMutation<Got, Refusal, Sent>({
    mutationFn: work,
    meta: { saidInPlace: Boolean(onRefused) },
    onSuccess: onDone,
    onError: onRefused,
    onSettled: (_got, _refusal, sent) =>
      Promise.all(touches(sent).map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}
