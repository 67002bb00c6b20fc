// The states of a screen that development can look at are what their names say.
import { expect, test, vi } from "vitest";
import { emptied, reading, stateAsked } from "./pretend";

const WEEK = { days: [{ date: "2026-11-30" }], minutes: 60, gym: { tiers: ["As written"] } };
const real = vi.fn(async () => Response.json(WEEK)) as unknown as typeof fetch;
const read = (state: Parameters<typeof reading>[0], path = "/api/week") =>
  reading(state, real)(new URL(path, "http://gym.example"));

test("an address asks for a state by name, and for no other", () => {
  expect(stateAsked("?pretend=failed")).toBe("failed");
  expect(stateAsked("?pretend=broken")).toBeNull();
  expect(stateAsked("")).toBeNull();
});

test("a failed screen gets the sentence of an outage, an offline one no answer", async () => {
  const failed = await read("failed");
  expect(failed.status).toBe(503);
  expect((await failed.json()).detail).toMatch(/does not answer/);
  await expect(read("offline")).rejects.toThrow(TypeError);
});

test("an empty screen gets its own answer without what its lists hold", async () => {
  expect(await (await read("empty")).json()).toEqual(emptied(WEEK));
  expect(emptied(WEEK)).toEqual({ days: [], minutes: 60, gym: { tiers: [] } });
});

test("a waiting screen gets nothing yet", async () => {
  const soon = new Promise((done) => setTimeout(() => done("waits"), 20));
  expect(await Promise.race([read("waiting"), soon])).toBe("waits");
});

test("who is signed in and what is written are never pretended", async () => {
  expect((await read("failed", "/api/me")).status).toBe(200);
  const put = new Request("http://gym.example/api/settings", { method: "PUT" });
  expect((await reading("failed", real)(put)).status).toBe(200);
});
