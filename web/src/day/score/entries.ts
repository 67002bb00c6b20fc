// Sending score entries: each intent has one key, so that a repeated try lands once.
import { api, ask, type Schemas } from "../../api/client";

type ScoreOut = Schemas["ScoreOut"];

export type Entry = {
  key: string;
  person: number;
  entered: string;
  tier: number;
  track: number;
  version: number;
  requestKey: string;
};

export const newRequestKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) =>
    b.toString(16).padStart(2, "0"),
  ).join("");

export function send(date: string, entry: Entry): Promise<ScoreOut | null> {
  return ask(
    api.PUT("/api/days/{date}/pieces/{key}/scores/{person_id}", {
      params: { path: { date, key: entry.key, person_id: entry.person } },
      body: {
        entered: entry.entered,
        tier: entry.tier,
        track: entry.track,
        version: entry.version,
        request_key: entry.requestKey,
      },
    }),
  );
}

/** Keep a score as it is, in another tier or track. */
export function resave(date: string, score: ScoreOut, to: { tier: number; track: number }) {
  return send(date, {
    key: score.piece_key,
    person: score.person_id,
    entered: score.entered,
    tier: to.tier,
    track: to.track,
    version: score.version,
    requestKey: newRequestKey(),
  });
}

export function read(
  date: string,
  key: string,
  body: { entered: string; tier: number; track: number; person_id: number },
) {
  return ask(
    api.POST("/api/days/{date}/pieces/{key}/read", { params: { path: { date, key } }, body }),
  );
}
