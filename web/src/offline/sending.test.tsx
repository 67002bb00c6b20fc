// A press that lands never looks undone, not for one drawing of the page.
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { cleanup, render, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { keys } from "../api/keys";
import { useSending, useWaiting } from "./outbox";
import { put, read } from "./queue";

const ME = 7;
const CLEO = 3;
const CLASS = 5;

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal(
    "fetch",
    async () =>
      new Response(JSON.stringify({ finishes: [{ person_id: CLEO, shown: "0:05" }] }), {
        headers: { "content-type": "application/json" },
      }),
  );
});
afterEach(cleanup);

test("a finish stands from its press on: waiting, then with its time", async () => {
  const client = new QueryClient();
  client.setQueryData(keys.clock(CLASS), { finishes: [] });
  put(ME, {
    kind: "finish",
    date: "2026-06-04",
    classId: CLASS,
    body: { press: "finish", athlete_id: CLEO, heat: 1, key: "1", at: 5 },
  });
  const drawn: boolean[] = [];
  // As on Run: the page holds the clock, the list of finishes within it what still waits.
  function Finishes({ ends }: { ends: number }) {
    drawn.push(useWaiting(ME).length > 0 || ends > 0);
    return null;
  }
  function Page() {
    useSending(ME);
    const clock = useQuery<{ finishes: unknown[] }>({
      queryKey: keys.clock(CLASS),
      queryFn: () => Promise.resolve({ finishes: [{ person_id: CLEO, shown: "0:05" }] }),
      staleTime: Number.POSITIVE_INFINITY,
    });
    return <Finishes ends={clock.data?.finishes.length ?? 0} />;
  }
  render(
    <QueryClientProvider client={client}>
      <Page />
    </QueryClientProvider>,
  );
  await waitFor(() => expect(read()).toEqual([]));
  await waitFor(() => expect(drawn.length).toBeGreaterThan(1));
  expect(drawn).not.toContain(false);
});
