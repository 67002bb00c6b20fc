// The outbox: kept through everything, sent once, refused in its place.
import { beforeEach, expect, test, vi } from "vitest";
import { setGuard } from "../api/client";
import { chooseProgramme } from "../api/programme";
import { flush } from "./outbox";
import { drop, onFull, put, read, restore, type Sent } from "./queue";

const ME = 7;
const score = (entered: string, version = 0, person = 3): Sent => ({
  kind: "score",
  date: "2026-06-04",
  key: "1",
  person,
  mine: false,
  body: { entered, tier: 0, track: 0, version, request_key: `key-of-${entered}-${person}` },
});
const jot = (key: string, round = 1): Sent => ({
  kind: "jot",
  date: "2026-06-04",
  key: "1",
  mine: false,
  jot: { key, person_id: 3, round, number: 12, noted_at: "2026-06-04T10:00:00Z" },
});

const answers: (() => Response | Promise<Response>)[] = [];
const sent: { url: string; body: { entered?: string; request_key?: string; version?: number } }[] =
  [];
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "content-type": "application/json" },
  });

beforeEach(() => {
  chooseProgramme(null);
  localStorage.clear();
  answers.length = 0;
  sent.length = 0;
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push({ url: new URL(request.url).pathname, body: await request.clone().json() });
    const next = answers.shift();
    if (!next) throw new TypeError("Failed to fetch");
    return next();
  });
});

test("what cannot be sent stays, and goes with the same key once it can", async () => {
  put(ME, score("5+12"));
  await flush(ME);
  expect(read()).toHaveLength(1);
  answers.push(() => json({ version: 1 }));
  await flush(ME);
  expect(read()).toEqual([]);
  expect(sent.map((one) => one.body.request_key)).toEqual(["key-of-5+12-3", "key-of-5+12-3"]);
});

test("forty scores typed without network land each once, in their order", async () => {
  for (let person = 1; person <= 40; person += 1) put(ME, score("5", 0, person));
  await flush(ME);
  expect(read()).toHaveLength(40);
  for (let n = 0; n < 40; n += 1) answers.push(() => json({ version: 1 }));
  sent.length = 0;
  await flush(ME);
  expect(read()).toEqual([]);
  expect(sent.map((one) => Number(one.url.split("/").at(-1)))).toEqual(
    Array.from({ length: 40 }, (_, n) => n + 1),
  );
});

test("a refused entry stays with the reason and blocks nothing behind it", async () => {
  put(ME, score("quick", 0, 1));
  put(ME, score("6", 0, 2));
  answers.push(
    () => json({ detail: "write rounds+reps" }, 422),
    () => json({ version: 1 }),
  );
  await flush(ME);
  expect(read().map((one) => one.refused?.words)).toEqual(["write rounds+reps"]);
  await flush(ME);
  expect(sent).toHaveLength(2);
});

test("a server in trouble is waited for, not taken as a refusal", async () => {
  put(ME, score("6"));
  answers.push(() => json({ detail: "the database does not answer" }, 503));
  await flush(ME);
  expect(read()[0]?.refused).toBeUndefined();
});

test("signed out, everything waits for its owner", async () => {
  put(ME, score("6"));
  answers.push(() => json({ detail: "sign in first" }, 401));
  await flush(ME);
  expect(read()).toHaveLength(1);
  await flush(ME + 1);
  expect(sent).toHaveLength(1);
});

test("what one person entered is never sent under another's sign-in", async () => {
  put(ME, score("6"));
  answers.push(() => json({ version: 1 }));
  setGuard("guard of another", ME + 1);
  await flush(ME);
  expect(sent).toEqual([]);
  expect(read()).toHaveLength(1);
  setGuard("guard of mine", ME);
  await flush(ME);
  expect(read()).toEqual([]);
});

test("typing a cell again replaces what waits for it", async () => {
  put(ME, score("5"));
  put(ME, score("6"));
  expect(read().map((one) => one.kind === "score" && one.body.entered)).toEqual(["6"]);
});

test("what is typed while the first is on its way goes on from it: no conflict with oneself", async () => {
  put(ME, score("5"));
  answers.push(
    () => {
      put(ME, score("6"));
      return json({ version: 1 });
    },
    () => json({ version: 2 }),
  );
  await flush(ME);
  expect(sent.map((one) => [one.body.entered, one.body.version])).toEqual([
    ["5", 0],
    ["6", 1],
  ]);
  expect(read()).toEqual([]);
});

test("a refused note does not hold the other notes back", async () => {
  put(ME, jot("good-0001"));
  put(ME, jot("bad-00001", 2));
  answers.push(
    () => json({ detail: "nobody has the number 3" }, 422),
    () => json({}),
    () => json({ detail: "nobody has the number 3" }, 422),
  );
  await flush(ME);
  expect(read().map((one) => one.kind === "jot" && [one.jot.key, one.refused?.status])).toEqual([
    ["bad-00001", 422],
  ]);
});

test("a store that holds nonsense is begun anew, not stumbled over", () => {
  localStorage.setItem("pine-outbox", "{not json");
  expect(read()).toEqual([]);
});

test("an answer is told while its entry still waits: no press falls between the two", async () => {
  put(ME, score("6"));
  answers.push(() => json({ version: 1 }));
  const waiting: number[] = [];
  await flush(ME, () => waiting.push(read().length));
  expect(waiting).toEqual([1]);
  expect(read()).toEqual([]);
});

test("what is entered in two programmes on one day goes each to its own, wherever one looks by then", async () => {
  const searched: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    searched.push(new URL(request.url).search);
    return json({ classes: [] });
  });
  const come = (): Sent => ({ kind: "check-in", date: "2026-06-04", start: "18:00", here: true });
  put(ME, come());
  chooseProgramme(2);
  put(ME, come());
  put(ME, come());
  expect(read()).toHaveLength(2);
  chooseProgramme(3);
  await flush(ME);
  expect(searched).toEqual(["", "?in_programme=2"]);
});

test("a new note takes the place of one that was refused there, not of others that wait", async () => {
  const note = (key: string, round: number, number: number): Sent => {
    const one = jot(key, round) as Sent & { kind: "jot" };
    return { ...one, jot: { ...one.jot, number } };
  };
  put(ME, note("a", 1, 25000));
  answers.push(() => json({ detail: "number is at most 20000" }, 422));
  await flush(ME);
  expect(read().map((one) => one.refused?.words)).toEqual(["number is at most 20000"]);
  put(ME, note("b", 2, 30));
  put(ME, note("c", 2, 31));
  put(ME, note("d", 1, 25));
  const left = read().map((one) => one.kind === "jot" && [one.jot.round, one.jot.number]);
  expect(left).toEqual([
    [2, 30],
    [2, 31],
    [1, 25],
  ]);
});

test("what was given up comes back, but not over what was written in its cell since", () => {
  const first = put(ME, score("25000"));
  drop(first.id);
  restore(first);
  expect(read()).toEqual([first]);
  drop(first.id);
  const since = put(ME, score("25"));
  restore(first);
  expect(read()).toEqual([since]);
});

test("where the browser's store is full a score is told of, kept with the page, and sent", async () => {
  const told = vi.fn();
  const stop = onFull(told);
  put(ME, score("4", 0, 1));
  const real = Storage.prototype.setItem;
  const spy = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  put(ME, score("5+12", 0, 2));
  expect(told).toHaveBeenCalledTimes(1);
  expect(read().map((one) => one.kind === "score" && one.body.entered)).toEqual(["4", "5+12"]);
  answers.push(
    () => json({ version: 1 }),
    () => json({ version: 1 }),
  );
  await flush(ME);
  expect(sent.map((one) => one.body.entered)).toEqual(["4", "5+12"]);
  spy.mockImplementation(function (this: Storage, key: string, value: string) {
    real.call(this, key, value);
  });
  put(ME, score("6", 0, 3));
  expect(JSON.parse(localStorage.getItem("pine-outbox") ?? "[]")).toHaveLength(1);
  spy.mockRestore();
  drop(read()[0]?.id ?? "");
  stop();
});

test.each([
  401, 429, 500, 502, 503,
])("an answer of %s keeps an entry waiting, not refused", async (status) => {
  put(ME, score("5+12"));
  answers.push(() => json({ detail: "later" }, status));
  await flush(ME);
  expect(read()).toMatchObject([{ body: { entered: "5+12" } }]);
  expect(read()[0]?.refused).toBeUndefined();
});

test("a note that was given up and comes back stands behind what was noted since", () => {
  const old = put(ME, jot("old-note-1", 2));
  drop(old.id);
  put(ME, {
    ...jot("new-note-1", 2),
    jot: { ...(jot("new-note-1", 2) as never as { jot: object }).jot, number: 15 },
  } as Sent);
  restore(old);
  // The last one in the list is the one that holds.
  expect(read().map((one) => one.kind === "jot" && one.jot.key)).toEqual([
    "old-note-1",
    "new-note-1",
  ]);
});
