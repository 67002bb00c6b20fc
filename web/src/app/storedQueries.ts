// What was read is kept on this device, so that screens open without network. Profiles, health
// notes and histories are not: they are read when they are asked for.
import { createSyncStoragePersister } from "@tanstack/query-sync-storage-persister";
import type {
  PersistedClient,
  PersistQueryClientOptions,
} from "@tanstack/react-query-persist-client";

export const KEPT = "pine-kept";
const DAY_MS = 86_400_000;
const OPEN_WITHOUT_NETWORK = new Set([
  "me",
  "gym",
  "words",
  "day",
  "week",
  "class",
  "bank",
  "kept-pieces",
]);
const TYPED = new Set(["preview", "testrun", "reading"]);

/** A refetch that failed changes nothing of what was read before: it is kept as it was read. */
function asRead(client: PersistedClient): string {
  const queries = client.clientState.queries.map((query) => ({
    ...query,
    state: {
      ...query.state,
      status: "success",
      error: null,
      fetchStatus: "idle",
      fetchFailureCount: 0,
      fetchFailureReason: null,
    },
  }));
  return JSON.stringify({ ...client, clientState: { ...client.clientState, queries } });
}

export const storedQueries: Omit<PersistQueryClientOptions, "queryClient"> = {
  persister: createSyncStoragePersister({
    storage: window.localStorage,
    key: KEPT,
    serialize: asRead,
  }),
  maxAge: DAY_MS,
  dehydrateOptions: {
    shouldDehydrateQuery: (query) =>
      query.state.data !== undefined &&
      OPEN_WITHOUT_NETWORK.has(String(query.queryKey[0])) &&
      !TYPED.has(String(query.queryKey[2])),
  },
};
