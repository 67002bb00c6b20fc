// What was read is kept on this device, so that screens open without network. Profiles, health
// notes and histories are not: they are read when they are asked for.
import { createSyncStoragePersister } from "@tanstack/query-sync-storage-persister";
import type { PersistQueryClientOptions } from "@tanstack/react-query-persist-client";

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

export const kept: Omit<PersistQueryClientOptions, "queryClient"> = {
  persister: createSyncStoragePersister({ storage: window.localStorage, key: KEPT }),
  maxAge: DAY_MS,
  dehydrateOptions: {
    shouldDehydrateQuery: (query) =>
      query.state.status === "success" &&
      OPEN_WITHOUT_NETWORK.has(String(query.queryKey[0])) &&
      !TYPED.has(String(query.queryKey[2])),
  },
};
