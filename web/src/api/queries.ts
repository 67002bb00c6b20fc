// Server state, by name.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ask, setGuard } from "./client";
import type { paths } from "./schema";

type MovementFilter = paths["/api/movements"]["get"]["parameters"]["query"];

export const frontDoor = queryOptions({
  queryKey: ["front-door"],
  queryFn: () => ask(api.GET("/api/front-door")),
});

export const me = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    const found = await ask(api.GET("/api/me"));
    setGuard(found.guard);
    return found;
  },
  retry: false,
  staleTime: Number.POSITIVE_INFINITY,
});

export const gym = queryOptions({
  queryKey: ["gym"],
  queryFn: () => ask(api.GET("/api/gym")),
  staleTime: 60_000,
});

export const boardWords = queryOptions({
  queryKey: ["words"],
  queryFn: () => ask(api.GET("/api/words")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const day = (date: string) =>
  queryOptions({
    queryKey: ["day", date],
    queryFn: () => ask(api.GET("/api/days/{date}", { params: { path: { date } } })),
    staleTime: 0,
    refetchOnWindowFocus: false,
  });

export const preview = (text: string, tier: number, track: number | null) =>
  queryOptions({
    queryKey: ["preview", text, tier, track],
    queryFn: () => ask(api.POST("/api/preview", { body: { text, tier, track } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });

export const testrun = (text: string, date: string) =>
  queryOptions({
    queryKey: ["testrun", text, date],
    queryFn: () => ask(api.POST("/api/testrun", { body: { text, date } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    enabled: text.trim() !== "",
  });

export const sheet = (date: string) =>
  queryOptions({
    queryKey: ["sheet", date],
    queryFn: () => ask(api.GET("/api/days/{date}/sheet", { params: { path: { date } } })),
  });

export const myDay = (date: string, tier?: number, track?: number, home = false) =>
  queryOptions({
    queryKey: ["my-day", date, tier, track, home],
    queryFn: () =>
      ask(
        api.GET("/api/me/days/{date}", {
          params: { path: { date }, query: { tier, track, home } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export type Filter = paths["/api/days/{date}/pieces/{key}/standings"]["get"]["parameters"]["query"];

export const standings = (date: string, key: string, query: Filter) =>
  queryOptions({
    queryKey: ["standings", date, key, query],
    queryFn: () =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/standings", {
          params: { path: { date, key }, query },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const week = (date: string) =>
  queryOptions({
    queryKey: ["week", date],
    queryFn: () => ask(api.GET("/api/week/{date}", { params: { path: { date } } })),
    placeholderData: keepPreviousData,
  });

export const movements = (query: NonNullable<MovementFilter>) =>
  queryOptions({
    queryKey: ["movements", query],
    queryFn: () => ask(api.GET("/api/movements", { params: { query } })),
    placeholderData: keepPreviousData,
  });

export const movement = (name: string) =>
  queryOptions({
    queryKey: ["movement", name],
    queryFn: () => ask(api.GET("/api/movements/{name}", { params: { path: { name } } })),
  });

export const ladders = queryOptions({
  queryKey: ["ladders"],
  queryFn: () => ask(api.GET("/api/ladders")),
  staleTime: 300_000,
});

export const athletes = queryOptions({
  queryKey: ["athletes"],
  queryFn: () => ask(api.GET("/api/athletes")),
});

export const profile = (id: number) =>
  queryOptions({
    queryKey: ["profile", id],
    queryFn: () =>
      ask(api.GET("/api/athletes/{athlete_id}/profile", { params: { path: { athlete_id: id } } })),
    refetchOnWindowFocus: false,
  });

export const pace = (id: number) =>
  queryOptions({
    queryKey: ["pace", id],
    queryFn: () =>
      ask(api.GET("/api/athletes/{athlete_id}/pace", { params: { path: { athlete_id: id } } })),
  });

export const benchmarks = (id: number) =>
  queryOptions({
    queryKey: ["benchmarks", id],
    queryFn: () =>
      ask(
        api.GET("/api/athletes/{athlete_id}/benchmarks", {
          params: { path: { athlete_id: id } },
        }),
      ),
  });

export const myBenchmarks = queryOptions({
  queryKey: ["my-benchmarks"],
  queryFn: () => ask(api.GET("/api/me/benchmarks")),
});

export const myProfile = queryOptions({
  queryKey: ["my-profile"],
  queryFn: () => ask(api.GET("/api/me/profile")),
  refetchOnWindowFocus: false,
});

export const myPace = queryOptions({
  queryKey: ["my-pace"],
  queryFn: () => ask(api.GET("/api/me/pace")),
});

export const scaling = (date: string, key: string, class_id: number | null) =>
  queryOptions({
    queryKey: ["scaling", date, key, class_id],
    queryFn: () =>
      ask(
        api.GET("/api/days/{date}/pieces/{key}/scaling", {
          params: { path: { date, key }, query: { class_id } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const classes = (date: string) =>
  queryOptions({
    queryKey: ["classes", date],
    queryFn: () => ask(api.GET("/api/days/{date}/classes", { params: { path: { date } } })),
  });

export const foretold = (date: string, key: string) =>
  queryOptions({
    queryKey: ["foretold", date, key],
    queryFn: () =>
      ask(api.GET("/api/days/{date}/pieces/{key}/foretold", { params: { path: { date, key } } })),
  });

export const settings = queryOptions({
  queryKey: ["settings"],
  queryFn: () => ask(api.GET("/api/settings")),
  refetchOnWindowFocus: false,
});

export const bank = queryOptions({
  queryKey: ["bank"],
  queryFn: () => ask(api.GET("/api/bank")),
});

export const floor = (date: string) =>
  queryOptions({
    queryKey: ["floor", date],
    queryFn: () => ask(api.GET("/api/days/{date}/floor", { params: { path: { date } } })),
  });

export const clock = (class_id: number | null) =>
  queryOptions({
    queryKey: ["clock", class_id],
    queryFn: () =>
      ask(
        api.GET("/api/classes/{class_id}/clock", { params: { path: { class_id: class_id ?? 0 } } }),
      ),
    enabled: class_id !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const lanes = (class_id: number, key: string, pairing: "even teams" | "like with like") =>
  queryOptions({
    queryKey: ["lanes", class_id, key, pairing],
    queryFn: () =>
      ask(
        api.GET("/api/classes/{class_id}/lanes/{key}", {
          params: { path: { class_id, key }, query: { pairing } },
        }),
      ),
  });

export const walls = queryOptions({
  queryKey: ["walls"],
  queryFn: () => ask(api.GET("/api/walls")),
});

export const jots = (date: string, key: string) =>
  queryOptions({
    queryKey: ["jots", date, key],
    queryFn: () =>
      ask(api.GET("/api/days/{date}/pieces/{key}/jots", { params: { path: { date, key } } })),
  });

export const rounds = (date: string, key: string) =>
  queryOptions({
    queryKey: ["rounds", date, key],
    queryFn: () =>
      ask(api.GET("/api/days/{date}/pieces/{key}/rounds", { params: { path: { date, key } } })),
  });

export const retests = (date: string, key: string) =>
  queryOptions({
    queryKey: ["retests", date, key],
    queryFn: () =>
      ask(api.GET("/api/days/{date}/pieces/{key}/retests", { params: { path: { date, key } } })),
  });

export const bests = (programme: string) =>
  queryOptions({
    queryKey: ["bests", programme],
    queryFn: () => ask(api.GET("/api/bests", { params: { query: { programme } } })),
    placeholderData: keepPreviousData,
  });

export const history = (id: number | null) =>
  queryOptions({
    queryKey: ["history", id],
    queryFn: () =>
      id === null
        ? ask(api.GET("/api/me/history"))
        : ask(
            api.GET("/api/athletes/{athlete_id}/history", {
              params: { path: { athlete_id: id } },
            }),
          ),
  });

export const myClasses = (date: string) =>
  queryOptions({
    queryKey: ["my-classes", date],
    queryFn: () => ask(api.GET("/api/me/days/{date}/classes", { params: { path: { date } } })),
  });

export const myEffort = (date: string) =>
  queryOptions({
    queryKey: ["my-effort", date],
    queryFn: () => ask(api.GET("/api/me/days/{date}/effort", { params: { path: { date } } })),
  });

export const myClock = queryOptions({
  queryKey: ["my-clock"],
  queryFn: () => ask(api.GET("/api/me/clock")),
});

export const myJots = (date: string, key: string) =>
  queryOptions({
    queryKey: ["my-jots", date, key],
    queryFn: () =>
      ask(api.GET("/api/me/days/{date}/pieces/{key}/jots", { params: { path: { date, key } } })),
  });

/** Read anew whenever the score's standing changes. */
export const trail = (
  path: { date: string; key: string; person_id: number },
  score: { standing: string; version: number },
) =>
  queryOptions({
    queryKey: ["trail", path, score.standing, score.version],
    queryFn: () =>
      ask(api.GET("/api/days/{date}/pieces/{key}/scores/{person_id}/trail", { params: { path } })),
  });

export const myTrail = (
  path: { date: string; key: string },
  score: { standing: string; version: number },
) =>
  queryOptions({
    queryKey: ["my-trail", path, score.standing, score.version],
    queryFn: () => ask(api.GET("/api/me/days/{date}/pieces/{key}/trail", { params: { path } })),
  });
