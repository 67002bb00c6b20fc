// What was read stays on the device, however often the network is gone.
import { dehydrate, hydrate, QueryClient } from "@tanstack/react-query";
import { beforeEach, expect, test, vi } from "vitest";
import { keys } from "../api/keys";
import { KEPT, storedQueries } from "./storedQueries";

const KEY = ["day", "2026-06-04", "text"];

beforeEach(() => localStorage.clear());

/** A visit: what was kept is restored, then everything is read anew, with or without network. */
async function visit(network: boolean): Promise<unknown> {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const found = await storedQueries.persister.restoreClient();
  if (found) hydrate(client, found.clientState as never);
  const before = localStorage.getItem(KEPT);
  const read = async () => {
    if (!network) throw new Error("No connection.");
    return { text: "# Slack Water" };
  };
  await client
    .fetchQuery({ queryKey: KEY, queryFn: read, networkMode: "always" })
    .catch(() => undefined);
  storedQueries.persister.persistClient({
    timestamp: before === null ? 1 : JSON.parse(before).timestamp + 1,
    buster: "",
    clientState: dehydrate(client, storedQueries.dehydrateOptions as object) as never,
  });
  await vi.waitFor(() => expect(localStorage.getItem(KEPT)).not.toBe(before), { timeout: 4000 });
  const shown = client.getQueryState(KEY);
  return shown?.data;
}

test("a day that was read opens on every visit without network, not on the first alone", async () => {
  expect(await visit(true)).toEqual({ text: "# Slack Water" });
  for (const _ of [1, 2, 3]) expect(await visit(false)).toEqual({ text: "# Slack Water" });
  const state = JSON.parse(localStorage.getItem(KEPT) ?? "{}").clientState.queries[0].state;
  expect([state.status, state.error]).toEqual(["success", null]);
}, 15_000);

test("a running class is kept for a lost network, and what is private is not", () => {
  const shown = (queryKey: readonly unknown[]) =>
    storedQueries.dehydrateOptions?.shouldDehydrateQuery?.({
      queryKey,
      state: { data: {}, status: "success" },
    } as never);
  const named = [keys.clock(1), keys.floor("2026-06-04"), keys.jots("2026-06-04", "1")];
  for (const key of [...named, keys.text("2026-06-04"), keys.myDay("2026-06-04"), keys.me]) {
    expect([key, shown(key)]).toEqual([key, true]);
  }
  for (const key of [keys.profile(1), keys.history(1), keys.strap(1), keys.settings, keys.people]) {
    expect([key, shown(key)]).toEqual([key, false]);
  }
});
