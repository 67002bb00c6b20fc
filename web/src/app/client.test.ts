// The guard of a sign-in: kept on this device, renewed by the server, asked anew when outdated.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api, ask } from "../api/client";
import { keys } from "../api/keys";
import { makeClient } from "./client";

const OUTDATED = { detail: "this page is out of date: reload it and try again" };
let guards: (string | null)[] = [];
let good = "right";

beforeEach(() => {
  guards = [];
  good = "right";
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.url.endsWith("/api/me")) return Response.json({ id: 1, guard: good });
    const sent = request.headers.get("X-Pine-Guard");
    guards.push(sent);
    return sent === good
      ? Response.json({ title: "read" })
      : Response.json(OUTDATED, { status: 403 });
  });
});
afterEach(() => vi.unstubAllGlobals());

const preview = {
  queryKey: keys.preview("2026-03-02", "", 0, null),
  queryFn: () => ask(api.POST("/api/preview", { body: { text: "", tier: 0 } })),
};
const me = { queryKey: keys.me, queryFn: () => ask(api.GET("/api/me")) };

test("a guard kept on this device is sent before the server was asked who this is", async () => {
  const client = makeClient();
  client.setQueryData(keys.me, { id: 1, guard: "right" });
  await client.fetchQuery(preview);
  expect(guards).toEqual(["right"]);
});

test("what an outdated guard was refused for is asked anew with the new one", async () => {
  const client = makeClient();
  client.setQueryData(keys.me, { id: 1, guard: "of an earlier sign-in" });
  const watched = client.getQueryCache().build(client, { ...preview, retry: false });
  const { QueryObserver } = await import("@tanstack/react-query");
  const stop = new QueryObserver(client, { ...preview, retry: false }).subscribe(() => undefined);
  const who = new QueryObserver(client, { ...me, staleTime: Infinity }).subscribe(() => undefined);
  await vi.waitFor(() => expect(watched.state.data).toEqual({ title: "read" }));
  expect(guards).toEqual(["of an earlier sign-in", "right"]);
  stop();
  who();
});

test("a guard that is refused again and again is not asked for without end", async () => {
  const client = makeClient();
  client.setQueryData(keys.me, { id: 1, guard: "right" });
  good = "right";
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.url.endsWith("/api/me")) return Response.json({ id: 1, guard: "right" });
    guards.push(request.headers.get("X-Pine-Guard"));
    return Response.json(OUTDATED, { status: 403 });
  });
  await expect(client.fetchQuery({ ...preview, retry: false })).rejects.toThrow("out of date");
  await new Promise((done) => setTimeout(done, 50));
  expect(guards).toEqual(["right"]);
});
