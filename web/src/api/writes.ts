// Every write of a screen goes through here, under the one error policy of the query client.
import { notifications } from "@mantine/notifications";
import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import type { Refusal } from "./client";

const SAID_MS = 4000;

/**
 * A write: `work` sends it, `touches` are the keys to read anew whatever became of it. With
 * `onRefused` the screen says the refusal at its place; without, the policy shows it. `said`
 * confirms what is not seen to change where it was pressed.
 */
export function useWrite<Sent, Got>(
  work: (sent: Sent) => Promise<Got>,
  {
    touches = () => [],
    onDone,
    onRefused,
    said,
  }: {
    touches?: (sent: Sent) => readonly QueryKey[];
    onDone?: (got: Got, sent: Sent) => void;
    onRefused?: (refusal: Refusal, sent: Sent) => void;
    said?: (sent: Sent) => string;
  } = {},
) {
  const client = useQueryClient();
  return useMutation<Got, Refusal, Sent>({
    mutationFn: work,
    meta: { saidInPlace: Boolean(onRefused) },
    onSuccess: (got, sent) => {
      if (said) notifications.show({ message: said(sent), autoClose: SAID_MS });
      onDone?.(got, sent);
    },
    onError: onRefused,
    onSettled: (_got, _refusal, sent) =>
      Promise.all(touches(sent).map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}
