// Figures of movements, asked for where one is shown.
import { queryOptions } from "@tanstack/react-query";
import { api, ask, type Schemas } from "./client";

type Cycle = Schemas["Cycle"];
type Sign = Schemas["Sign"];

export const figure = (name: string, tempo?: string) =>
  queryOptions({
    queryKey: ["movements", "figure", name, tempo ?? ""],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/figures/{name}", {
          signal,
          params: { path: { name }, query: tempo ? { tempo } : {} },
        }),
      ) as Promise<Cycle>,
    staleTime: 300_000,
  });

export const signs = (of: string[]) =>
  queryOptions({
    queryKey: ["movements", "signs", ...of],
    queryFn: async ({ signal }) =>
      (await ask(api.GET("/api/figures", { signal, params: { query: { of } } }))) as Sign[],
    staleTime: 300_000,
  });
