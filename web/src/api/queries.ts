// Server state, by name.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ask } from "./client";
import { keys } from "./keys";
import type { paths } from "./schema";

type MovementFilter = paths["/api/movements"]["get"]["parameters"]["query"];

export const frontDoor = queryOptions({
  queryKey: keys.frontDoor,
  queryFn: ({ signal }) => ask(api.GET("/api/front-door", { signal })),
});

export const me = queryOptions({
  queryKey: keys.me,
  queryFn: ({ signal }) => ask(api.GET("/api/me", { signal })),
  retry: false,
  staleTime: Number.POSITIVE_INFINITY,
  // What was kept on this device is held against the server's word at each start.
  refetchOnMount: "always",
});

export const gym = queryOptions({
  queryKey: keys.gym,
  queryFn: ({ signal }) => ask(api.GET("/api/gym", { signal })),
  // From one programme to another the gym stays what it is, but for its classes.
  placeholderData: keepPreviousData,
  staleTime: 60_000,
  // Names of tiers kept on this device are held against the server's at each start.
  refetchOnMount: "always",
});

export const boardWords = queryOptions({
  queryKey: keys.words,
  queryFn: ({ signal }) => ask(api.GET("/api/words", { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

export const day = (date: string) =>
  queryOptions({
    queryKey: keys.text(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}", { signal, params: { path: { date } } })),
    staleTime: 0,
    refetchOnWindowFocus: false,
  });

export const preview = (date: string, text: string, tier: number, track: number | null) =>
  queryOptions({
    queryKey: keys.preview(date, text, tier, track),
    queryFn: ({ signal }) =>
      ask(api.POST("/api/preview", { signal, body: { text, tier, track, date } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });

export const testrun = (text: string, date: string) =>
  queryOptions({
    queryKey: keys.testrun(date, text),
    queryFn: ({ signal }) => ask(api.POST("/api/testrun", { signal, body: { text, date } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    enabled: text.trim() !== "",
  });

export const sheet = (date: string) =>
  queryOptions({
    queryKey: keys.sheet(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/sheet", { signal, params: { path: { date } } })),
  });

export const pieces = (date: string) =>
  queryOptions({
    queryKey: keys.pieces(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/pieces", { signal, params: { path: { date } } })),
  });

export const myDay = (date: string, tier?: number, track?: number, home = false) =>
  queryOptions({
    queryKey: [...keys.myDay(date), tier, track, home],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/me/days/{date}", {
          signal,
          params: { path: { date }, query: { tier, track, home } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export type Filter = paths["/api/days/{date}/pieces/{key}/standings"]["get"]["parameters"]["query"];

export const standings = (date: string, key: string, query: Filter) =>
  queryOptions({
    queryKey: [...keys.standings(date), key, query],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/standings", {
          signal,
          params: { path: { date, key }, query },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const week = (date: string) =>
  queryOptions({
    queryKey: keys.week(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/week/{date}", { signal, params: { path: { date } } })),
    placeholderData: keepPreviousData,
  });

export const movements = (query: NonNullable<MovementFilter>) =>
  queryOptions({
    queryKey: [...keys.movements, query],
    queryFn: ({ signal }) => ask(api.GET("/api/movements", { signal, params: { query } })),
    placeholderData: keepPreviousData,
  });

export const movement = (name: string) =>
  queryOptions({
    queryKey: [...keys.movements, "one", name],
    queryFn: ({ signal }) =>
      ask(api.GET("/api/movements/{name}", { signal, params: { path: { name } } })),
  });

export const ladders = queryOptions({
  queryKey: keys.ladders,
  queryFn: ({ signal }) => ask(api.GET("/api/ladders", { signal })),
  staleTime: 300_000,
});

export const athletes = queryOptions({
  queryKey: keys.athletes,
  queryFn: ({ signal }) => ask(api.GET("/api/athletes", { signal })),
});

export const profile = (id: number) =>
  queryOptions({
    queryKey: keys.profile(id),
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/athletes/{athlete_id}/profile", {
          signal,
          params: { path: { athlete_id: id } },
        }),
      ),
    refetchOnWindowFocus: false,
  });

export const pace = (id: number) =>
  queryOptions({
    queryKey: [...keys.athlete(id), "pace"],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/athletes/{athlete_id}/pace", {
          signal,
          params: { path: { athlete_id: id } },
        }),
      ),
  });

export const benchmarks = (id: number) =>
  queryOptions({
    queryKey: [...keys.athlete(id), "benchmarks"],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/athletes/{athlete_id}/benchmarks", {
          signal,
          params: { path: { athlete_id: id } },
        }),
      ),
  });

export const myBenchmarks = queryOptions({
  queryKey: [...keys.mine, "benchmarks"],
  queryFn: ({ signal }) => ask(api.GET("/api/me/benchmarks", { signal })),
});

export const myProfile = queryOptions({
  queryKey: [...keys.mine, "profile"],
  queryFn: ({ signal }) => ask(api.GET("/api/me/profile", { signal })),
  refetchOnWindowFocus: false,
});

export const myPace = queryOptions({
  queryKey: [...keys.mine, "pace"],
  queryFn: ({ signal }) => ask(api.GET("/api/me/pace", { signal })),
});

export const myHearts = queryOptions({
  queryKey: [...keys.mine, "hearts"],
  queryFn: ({ signal }) => ask(api.GET("/api/me/hearts", { signal })),
});

export const strap = (id: number | null) =>
  queryOptions({
    queryKey: keys.strap(id),
    queryFn: ({ signal }) =>
      id === null
        ? ask(api.GET("/api/me/strap", { signal }))
        : ask(
            api.GET("/api/athletes/{athlete_id}/strap", {
              signal,
              params: { path: { athlete_id: id } },
            }),
          ),
  });

export const scaling = (date: string, key: string, class_id: number | null) =>
  queryOptions({
    queryKey: [...keys.scaling(date), key, class_id],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/scaling", {
          signal,
          params: { path: { date, key }, query: { class_id } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const choices = (date: string, key: string, athlete: number, task: number) =>
  queryOptions({
    queryKey: [...keys.scaling(date), "choices", key, athlete, task],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/choices", {
          signal,
          params: { path: { date, key }, query: { athlete, task } },
        }),
      ),
  });

export const foretold = (date: string, key: string) =>
  queryOptions({
    queryKey: [...keys.scores(date), "foretold", key],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/foretold", {
          signal,
          params: { path: { date, key } },
        }),
      ),
  });

export const settings = queryOptions({
  queryKey: keys.settings,
  queryFn: ({ signal }) => ask(api.GET("/api/settings", { signal })),
  refetchOnWindowFocus: false,
});

export const keptPieces = queryOptions({
  queryKey: keys.kept,
  queryFn: ({ signal }) => ask(api.GET("/api/pieces", { signal })),
});

type EarlierFilter = Omit<paths["/api/earlier"]["get"]["parameters"]["query"], "to">;

export const earlier = (to: string, said: EarlierFilter) =>
  queryOptions({
    queryKey: [...keys.earlier(to), said],
    queryFn: ({ signal }) =>
      ask(api.GET("/api/earlier", { signal, params: { query: { ...said, to } } })),
    placeholderData: keepPreviousData,
  });

export const bank = queryOptions({
  queryKey: keys.bank,
  queryFn: ({ signal }) => ask(api.GET("/api/bank", { signal })),
});

export const floor = (date: string) =>
  queryOptions({
    queryKey: keys.floor(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/days/{date}/floor", { signal, params: { path: { date } } })),
  });

export const clock = (class_id: number | null) =>
  queryOptions({
    queryKey: keys.clock(class_id),
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/classes/{class_id}/clock", {
          signal,
          params: { path: { class_id: class_id ?? 0 } },
        }),
      ),
    enabled: class_id !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const lanes = (
  date: string,
  class_id: number,
  key: string,
  pairing: "even teams" | "like with like",
) =>
  queryOptions({
    queryKey: [...keys.lanes(date), class_id, key, pairing],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/classes/{class_id}/lanes/{key}", {
          signal,
          params: { path: { class_id, key }, query: { pairing } },
        }),
      ),
  });

export const walls = queryOptions({
  queryKey: keys.walls,
  queryFn: ({ signal }) => ask(api.GET("/api/walls", { signal })),
});

export const jots = (date: string, key: string) =>
  queryOptions({
    queryKey: keys.jots(date, key),
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/jots", { signal, params: { path: { date, key } } }),
      ),
  });

export const rounds = (date: string, key: string) =>
  queryOptions({
    queryKey: [...keys.scores(date), "rounds", key],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/rounds", {
          signal,
          params: { path: { date, key } },
        }),
      ),
  });

export const retests = (date: string, key: string) =>
  queryOptions({
    queryKey: [...keys.scores(date), "retests", key],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/retests", {
          signal,
          params: { path: { date, key } },
        }),
      ),
  });

export const bests = queryOptions({
  queryKey: keys.bests,
  queryFn: ({ signal }) => ask(api.GET("/api/bests", { signal })),
});

export const programmes = queryOptions({
  queryKey: keys.programmes,
  queryFn: ({ signal }) => ask(api.GET("/api/programmes", { signal })),
});

export const history = (id: number | null) =>
  queryOptions({
    queryKey: keys.history(id),
    queryFn: ({ signal }) =>
      id === null
        ? ask(api.GET("/api/me/history", { signal }))
        : ask(
            api.GET("/api/athletes/{athlete_id}/history", {
              signal,
              params: { path: { athlete_id: id } },
            }),
          ),
  });

export const myClasses = (date: string) =>
  queryOptions({
    queryKey: keys.myClasses(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/classes", { signal, params: { path: { date } } })),
  });

export const myEffort = (date: string) =>
  queryOptions({
    queryKey: keys.myEffort(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/effort", { signal, params: { path: { date } } })),
  });

export const myClock = queryOptions({
  queryKey: keys.myClock,
  queryFn: ({ signal }) => ask(api.GET("/api/me/clock", { signal })),
});

export const myJots = (date: string, key: string) =>
  queryOptions({
    queryKey: keys.myJots(date, key),
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/me/days/{date}/pieces/{key}/jots", {
          signal,
          params: { path: { date, key } },
        }),
      ),
  });

/** Read anew whenever the score's standing changes. */
export const trail = (
  path: { date: string; key: string; person_id: number },
  score: { standing: string; version: number },
) =>
  queryOptions({
    queryKey: [...keys.sheet(path.date), "trail", path, score.standing, score.version],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/scores/{person_id}/trail", {
          signal,
          params: { path },
        }),
      ),
  });

export const myTrail = (
  path: { date: string; key: string },
  score: { standing: string; version: number },
) =>
  queryOptions({
    queryKey: [...keys.myDay(path.date), "trail", path, score.standing, score.version],
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/pieces/{key}/trail", { signal, params: { path } })),
  });
