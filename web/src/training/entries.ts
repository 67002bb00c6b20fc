// Reading score entries without keeping them.
import { api, ask, type Schemas } from "../api/client";

export const readEntry = (
  date: string,
  key: string,
  body: Schemas["ReadForm"],
  signal?: AbortSignal,
): Promise<Schemas["Read"]> =>
  ask(
    api.POST("/api/days/{date}/pieces/{key}/read", {
      params: { path: { date, key } },
      body,
      signal,
    }),
  );
