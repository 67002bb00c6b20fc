// The typed way to the server: every call through here carries the session's guard.
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

let guard = "";

export function setGuard(next: string): void {
  guard = next;
}

export const api = createClient<paths>({ baseUrl: "" });

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
  ) {
    super(sentence);
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or a Refusal with the server's sentence. A lost network is status 0. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Refusal(0, "No connection. What you typed is kept here.");
  }
  if (!answer.response.ok) {
    const error = answer.error as { detail?: string; newer?: unknown } | undefined;
    const sentence = error?.detail ?? "The server could not answer. Try again.";
    throw new Refusal(answer.response.status, sentence, error?.newer);
  }
  return answer.data as T;
}
