// The query client with its one error policy: said once, signed out once, nothing typed is lost.
import { notifications } from "@mantine/notifications";
import { hashKey, MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import { isOutdated, Refusal, type Schemas, setGuard } from "../api/client";
import { keys } from "../api/keys";
import { chooseProgramme, programme } from "../api/programme";
import { onUnanswered } from "../offline/outbox";
import { onFull } from "../offline/queue";

declare module "@tanstack/react-query" {
  interface Register {
    defaultError: Refusal;
    mutationMeta: { saidInPlace?: boolean };
  }
}

const SIGNED_OUT = 401;
const RETRIES = 1;
const NO_PROGRAMME = "there is no such programme";
/** What is the same whichever programme is looked at. */
const OF_ALL: ReadonlySet<unknown> = new Set(["me", "front-door"]);

let signedOut = false;
const heard = new EventTarget();

/** Whether the server has said that nobody is signed in any more. */
export const isSignedOut = () => signedOut;
export function setSignedOut(out: boolean): void {
  if (signedOut === out) return;
  signedOut = out;
  heard.dispatchEvent(new Event("change"));
}
export function onSignedOut(tell: () => void): () => void {
  heard.addEventListener("change", tell);
  return () => heard.removeEventListener("change", tell);
}

export function makeClient(): QueryClient {
  const noticed = (error: unknown) => {
    if (!(error instanceof Refusal)) return;
    if (error.status === SIGNED_OUT) setSignedOut(true);
    // The programme was taken away, or is another gym's: back to the first.
    if (error.status === 404 && error.message === NO_PROGRAMME) chooseProgramme(null);
    if (isOutdated(error)) client.invalidateQueries({ queryKey: keys.me });
  };
  onUnanswered(noticed);
  onFull(() =>
    notifications.show({
      id: "store-full",
      autoClose: false,
      color: "resin",
      message:
        "This browser has no room left to keep what you enter. Leave this page open until the" +
        " header shows nothing unsent.",
    }),
  );
  const queryCache = new QueryCache({ onError: noticed });
  const client = new QueryClient({
    queryCache,
    mutationCache: new MutationCache({
      onError: (error, _sent, _context, mutation) => {
        noticed(error);
        if (!mutation.meta?.saidInPlace) {
          notifications.show({ message: error.message, color: "resin" });
        }
      },
    }),
    defaultOptions: {
      queries: {
        staleTime: 5_000,
        // What was read of one programme is never shown as another's.
        queryKeyHashFn: (key) =>
          hashKey(programme() === null || OF_ALL.has(key[0]) ? key : [programme(), ...key]),
        // A refusal stays one; only an answer that did not come is asked for again.
        retry: (count, error) => count < RETRIES && (error.status === 0 || error.status >= 500),
      },
      // What waits for the network is kept by the outbox, which outlives the page.
      mutations: { networkMode: "always" },
    },
  });
  // Who is signed in brings the guard, whether read or kept on this device; what an older guard
  // was refused for is asked anew.
  queryCache.subscribe(({ query }) => {
    if (query.queryKey[0] !== keys.me[0]) return;
    const found = query.state.data as Schemas["Me"] | undefined;
    if (!found || !setGuard(found.guard, found.id)) return;
    client.refetchQueries({
      predicate: (one) => one.state.error instanceof Refusal && isOutdated(one.state.error),
    });
  });
  return client;
}
