// The typed way to the server: every call through here carries the session's guard.
import createClient, { createQuerySerializer } from "openapi-fetch";
import { base } from "./base";
import { inProgramme } from "./programme";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

let guard = "";
let owner: number | null = null;

/** Send the guard of this sign-in from now on; whether it is another than before. */
export function setGuard(next: string, whose: number): boolean {
  const changed = guard !== next;
  guard = next;
  owner = whose;
  return changed;
}

/** Whose guard is sent; null before anybody is known. */
export const guardOwner = (): number | null => owner;

const plain = createQuerySerializer();

export const api = createClient<paths>({
  baseUrl: window.location.origin + base,
  fetch: (request) => globalThis.fetch(request),
  querySerializer: (query) => plain(inProgramme(query)),
});

api.use({
  onRequest({ request }) {
    if (guard) request.headers.set("X-Pine-Guard", guard);
    return request;
  },
});

/** An answer that was not a success: its status, its sentence and, for conflicts, the newer state. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    sentence: string,
    readonly newer: unknown = undefined,
    /** Pieces that a save asks about, and the pieces to choose from. */
    readonly questions: Schemas["PieceQuestion"][] = [],
    readonly titles: string[] = [],
    /** Lines of a board that athletes would not see. */
    readonly unread: Schemas["UnreadLine"][] = [],
    /** The question to answer first: the same request with this field true does it. */
    readonly asks: string | undefined = undefined,
  ) {
    super(sentence);
  }
}

/** The page's guard is that of an earlier sign-in: it is asked for anew. */
export const isOutdated = (refusal: Refusal): boolean =>
  refusal.status === 403 && refusal.message.startsWith("this page is out of date");

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or a Refusal with the server's sentence. A lost network is status 0. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (error) {
    // A call that is no longer wanted is no lost connection.
    if ((error as Error).name === "AbortError") throw error;
    throw new Refusal(0, "No connection.");
  }
  if (!answer.response.ok) {
    const error = answer.error as (Partial<Schemas["DayConflict"]> & { asks?: string }) | undefined;
    const sentence = error?.detail ?? "The server could not answer. Try again.";
    throw new Refusal(
      answer.response.status,
      sentence,
      error?.newer,
      error?.questions,
      error?.titles,
      error?.unread,
      error?.asks,
    );
  }
  return answer.data as T;
}
