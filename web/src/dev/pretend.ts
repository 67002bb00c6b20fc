// In development alone: a screen as it is while it waits, has nothing, fails, or has no network.
import { onlineManager } from "@tanstack/react-query";

export const STATES = ["waiting", "empty", "failed", "offline", "stale"] as const;
export type State = (typeof STATES)[number];

/** The sign-in, the gym and the time are as they are: without them there is no screen. */
const AS_IT_IS = /\/api\/(?:me|gym|time|front-door)$/;
/** Milliseconds after which the network goes: who is signed in is known, or the screen is read. */
const GONE_MS = { offline: 1500, stale: 8000 };

/** The state that an address asks for with `?pretend=…`; null for any other. */
export const stateAsked = (search: string): State | null =>
  STATES.find((state) => state === new URLSearchParams(search).get("pretend")) ?? null;

/** An answer with all its lists emptied. */
export function emptied(answer: unknown): unknown {
  if (Array.isArray(answer)) return [];
  if (typeof answer !== "object" || answer === null) return answer;
  return Object.fromEntries(Object.entries(answer).map(([name, part]) => [name, emptied(part)]));
}

/** A fetch whose reads go as they do in a state. */
export function reading(state: State, real: typeof fetch): typeof fetch {
  return async (...asked) => {
    const request = new Request(...asked);
    const path = new URL(request.url).pathname;
    const read = request.method === "GET" && path.includes("/api/");
    if (!read || AS_IT_IS.test(path) || state === "stale") return real(request);
    switch (state) {
      case "waiting":
        return new Promise(() => undefined);
      case "failed":
        return Response.json(
          { detail: "The gym's database does not answer. Try again in a minute." },
          { status: 503 },
        );
      case "offline":
        throw new TypeError("Failed to fetch");
      default: {
        const answer = await real(request);
        return answer.ok ? Response.json(emptied(await answer.json())) : answer;
      }
    }
  };
}

/** Show this page in a state from now on. */
export function pretend(state: State): void {
  globalThis.fetch = reading(state, globalThis.fetch.bind(globalThis));
  if (state === "offline" || state === "stale") {
    window.setTimeout(() => onlineManager.setOnline(false), GONE_MS[state]);
  }
}
