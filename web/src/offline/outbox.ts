// Sends what waits, oldest first, one tab at a time, and tells what became of each.
import { notifyManager, type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { api, ask, guardOwner, isOutdated, Refusal, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { programme } from "../api/programme";
import { tellLanded } from "./delivered";
import {
  cellOf,
  drop,
  put,
  read,
  rebase,
  refuse,
  type Sent,
  STORE,
  stored,
  type Waiting,
  watch,
} from "./queue";

const RETRY_MS = 3000;
const MOST_JOTS = 100;
/** Answers after which the same entry may well be taken a little later. */
const later = (refusal: Refusal) =>
  [0, 401, 429].includes(refusal.status) || refusal.status >= 500 || isOutdated(refusal);

/** Send one entry; the answer of a score is the score. */
function send(one: Waiting): Promise<unknown> {
  const query = { in_programme: one.line ?? null };
  switch (one.kind) {
    case "score":
      return ask(
        one.mine
          ? api.PUT("/api/me/days/{date}/pieces/{key}/score", {
              params: { path: { date: one.date, key: one.key }, query },
              body: one.body,
            })
          : api.PUT("/api/days/{date}/pieces/{key}/scores/{person_id}", {
              params: { path: { date: one.date, key: one.key, person_id: one.person }, query },
              body: one.body,
            }),
      );
    case "here":
      return ask(
        api.PUT("/api/classes/{class_id}/here/{person_id}", {
          params: { path: { class_id: one.classId, person_id: one.person }, query },
          body: { here: one.here },
        }),
      );
    case "check-in":
      return ask(
        api.PUT("/api/me/days/{date}/check-in", {
          params: { path: { date: one.date }, query },
          body: { start: one.start, here: one.here },
        }),
      );
    case "effort":
      return ask(
        api.PUT("/api/me/days/{date}/effort", {
          params: { path: { date: one.date }, query },
          body: one.body,
        }),
      );
    case "finish":
      return ask(
        api.POST("/api/classes/{class_id}/clock", {
          params: { path: { class_id: one.classId }, query },
          body: { ...one.body, step: 0 },
        }),
      );
    case "jot":
      return sendJots([one]);
  }
}

type JotWaiting = Extract<Waiting, { kind: "jot" }>;

function sendJots(batch: readonly JotWaiting[]): Promise<unknown> {
  const { date, key, mine, line } = batch[0] as JotWaiting;
  const params = { path: { date, key }, query: { in_programme: line ?? null } };
  const jots = batch.map((one) => one.jot);
  return ask(
    mine
      ? api.POST("/api/me/days/{date}/pieces/{key}/jots", {
          params,
          body: { jots: jots.map(({ person_id: _me, ...jot }) => jot) },
        })
      : api.POST("/api/days/{date}/pieces/{key}/jots", { params, body: { jots } }),
  );
}

/** Jots of one piece go together; where one of them is refused, each is tried alone. */
function batchOf(list: readonly Waiting[], alone: ReadonlySet<string>): Waiting[] {
  const first = list[0] as Waiting;
  if (first.kind !== "jot" || alone.has(first.id)) return [first];
  return list
    .filter(
      (one): one is JotWaiting =>
        one.kind === "jot" &&
        !alone.has(one.id) &&
        one.date === first.date &&
        one.key === first.key &&
        one.mine === first.mine,
    )
    .slice(0, MOST_JOTS);
}

/** One tab sends at a time; where browsers have no locks, keys and versions still land once. */
async function alone(work: () => Promise<void>): Promise<void> {
  if (!navigator.locks) return work();
  await navigator.locks.request(STORE, { ifAvailable: true }, (lock) =>
    lock ? work() : undefined,
  );
}

/** Told of an entry that left: `got` is the server's answer, undefined where it was refused. */
type Told = (one: Waiting, got: unknown) => unknown;
let sending: Promise<void> | null = null;
let unanswered: (refusal: Refusal) => void = () => undefined;
/** Who is told of answers that keep entries waiting: signed out, page out of date, away. */
export function onUnanswered(tell: (refusal: Refusal) => void): void {
  unanswered = tell;
}

/** Send what `who` has waiting; what cannot be sent now stays, what is refused says why. */
export function flush(who: number, told: Told = () => undefined): Promise<void> {
  sending ??= alone(() => work(who, told)).finally(() => {
    sending = null;
  });
  return sending;
}

async function work(who: number, told: Told): Promise<void> {
  const apart = new Set<string>();
  for (;;) {
    // Somebody else signed in meanwhile: what this person entered is not sent as theirs.
    const owner = guardOwner();
    if (owner !== null && owner !== who) return;
    const list = read().filter((one) => one.who === who && !one.refused);
    if (list.length === 0) return;
    const batch = batchOf(list, apart);
    try {
      const got =
        batch.length > 1 ? await sendJots(batch as JotWaiting[]) : await send(batch[0] as Waiting);
      for (const one of batch) {
        if (one.kind === "score") rebase(one, (got as Schemas["ScoreOut"] | null)?.version ?? 0);
        // Told before it leaves the box: a press in between would mean its opposite.
        await told(one, got);
        drop(one.id);
        tellLanded({ one, got });
      }
    } catch (error) {
      const refusal = error instanceof Refusal ? error : new Refusal(0, String(error));
      if (later(refusal)) {
        unanswered(refusal);
        return;
      }
      if (batch.length > 1) {
        for (const one of batch) apart.add(one.id);
        continue;
      }
      const one = batch[0] as Waiting;
      refuse(one.id, {
        status: refusal.status,
        words: refusal.message,
        newer: refusal.newer as Schemas["ScoreOut"] | null | undefined,
      });
      await told(one, undefined);
    }
  }
}

let shown = "";
let list: readonly Waiting[] = [];
/** What waits, the same list as long as nothing changed. */
function snapshot(): readonly Waiting[] {
  const text = stored();
  if (text !== shown) {
    shown = text;
    list = read();
  }
  return list;
}

/** Everything that waits on this device for who is signed in, of every programme. */
export function useWaiting(who: number): readonly Waiting[] {
  const all = useSyncExternalStore(watch, snapshot);
  return useMemo(() => all.filter((one) => one.who === who), [all, who]);
}

/** What waits of one score; a page of hundreds of them looks anew at the one that changed alone. */
export function useWaitingScore(who: number, cell: string): Waiting | undefined {
  return useSyncExternalStore(watch, () =>
    snapshot().find((one) => one.who === who && one.kind === "score" && cellOf(one) === cell),
  );
}

type Scored = { scores: Schemas["ScoreOut"][] };

/** A score's landing in what is shown of its day: its answer in the place of what stood there. */
function showScore(client: QueryClient, one: Waiting & { kind: "score" }, got: unknown): void {
  const score = got as Schemas["ScoreOut"] | null;
  for (const queryKey of [keys.sheet(one.date), keys.myDay(one.date)]) {
    client.setQueriesData({ queryKey }, (kept: Partial<Scored> | undefined) => {
      if (!Array.isArray(kept?.scores)) return kept;
      const others = kept.scores.filter(
        (each) => each.piece_key !== one.key || each.person_id !== one.person,
      );
      return { ...kept, scores: score ? [...others, score] : others };
    });
  }
}

/** Show the server's answer at once: until it is read anew what has landed would look undone. */
function show(client: QueryClient, one: Waiting, got: unknown): void {
  if ((one.line ?? null) !== programme()) return;
  if (one.kind === "score") showScore(client, one, got);
  if (one.kind === "jot")
    client.setQueryData((one.mine ? keys.myJots : keys.jots)(one.date, one.key), got);
  if (one.kind === "finish") client.setQueryData(keys.clock(one.classId), got);
  if (one.kind === "check-in") client.setQueryData(keys.myClasses(one.date), got);
  if (one.kind === "here") {
    const held = got as Schemas["ClassHeld"];
    client.setQueryData(
      keys.floor(one.date),
      (floor: Schemas["FloorOut"] | undefined) =>
        floor && {
          ...floor,
          classes: floor.classes.map((each) => (each.id === held.id ? held : each)),
        },
    );
  }
}

/** What to read anew once an entry has landed. */
function touch(client: QueryClient, one: Waiting): void {
  const under =
    one.kind === "score" ? [keys.scores(one.date), keys.myDay(one.date)] : [keys.day(one.date)];
  for (const queryKey of under) client.invalidateQueries({ queryKey });
  if (one.kind === "finish") client.invalidateQueries({ queryKey: keys.clock(one.classId) });
}

/** Once every part of the page has been told of what the cache holds now; it tells them later. */
const drawn = () => new Promise<void>((done) => notifyManager.schedule(done));

/** Keep sending while the page is open: now, when the network is back, and every few seconds. */
export function useSending(who: number): void {
  const client = useQueryClient();
  useEffect(() => {
    const go = () =>
      flush(who, (one, got) => {
        if (got !== undefined) show(client, one, got);
        touch(client, one);
        return drawn();
      });
    const stop = watch(go);
    window.addEventListener("online", go);
    const timer = window.setInterval(go, RETRY_MS);
    go();
    return () => {
      stop();
      window.removeEventListener("online", go);
      window.clearInterval(timer);
    };
  }, [who, client]);
}

/** Keep something of mine to send. */
export const keep = (who: number, sent: Sent): Waiting => put(who, sent);
