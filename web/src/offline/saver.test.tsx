// Saving a board: nothing typed is lost, and nobody conflicts with themselves.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../api/client";
import { setGuard } from "../api/client";
import { chooseProgramme } from "../api/programme";
import { findDraft, keepDraft } from "./drafts";
import { useSaving } from "./saver";

type DayOut = Schemas["DayOut"];
const day = (text: string, version: number): DayOut => ({
  date: "2026-06-04",
  text,
  version,
  published: false,
  saved_by: "Carla",
  saved_at: "2026-06-04T10:00:00Z",
  theme: "",
});
let searched: string[] = [];
let bodies: Schemas["DayForm"][] = [];
let answer: (body: Schemas["DayForm"]) => Response | Promise<Response>;
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "content-type": "application/json" },
  });

const open = (date: string, saved: DayOut, renew: (text: string) => boolean = () => true) =>
  renderHook((found: DayOut) => useSaving(date, found, renew), {
    initialProps: saved,
    wrapper: ({ children }) => (
      <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
    ),
  });

beforeEach(() => {
  localStorage.clear();
  chooseProgramme(null);
  bodies = [];
  searched = [];
  answer = (body) => json(day(body.text, body.version + 1));
  vi.stubGlobal("fetch", async (request: Request) => {
    const body = await request.clone().json();
    bodies.push(body);
    searched.push(new URL(request.url).search);
    return answer(body);
  });
});
afterEach(cleanup);

test("what is typed is kept on the device until the server has it", async () => {
  const hook = open("2026-06-01", day("", 0));
  act(() => hook.result.current.type("# Neap"));
  expect(findDraft("2026-06-01")?.text).toBe("# Neap");
  await waitFor(() => expect(hook.result.current.status.state).toBe("saved"), { timeout: 3000 });
  expect(findDraft("2026-06-01")).toBeNull();
});

test("without network it says so, keeps the draft, and saves by itself later", async () => {
  answer = () => {
    throw new TypeError("Failed to fetch");
  };
  const hook = open("2026-06-02", day("", 0));
  act(() => hook.result.current.type("# Ebb"));
  await waitFor(() => expect(hook.result.current.status.state).toBe("offline"), { timeout: 3000 });
  expect(findDraft("2026-06-02")?.text).toBe("# Ebb");
  answer = (body) => json(day(body.text, body.version + 1));
  await act(() => hook.result.current.save());
  expect(hook.result.current.status.state).toBe("saved");
});

test("leaving Write and coming back is no conflict with oneself", async () => {
  const first = open("2026-06-03", day("# A", 1));
  act(() => first.result.current.type("# A b"));
  await act(() => first.result.current.save());
  first.unmount();
  // The page comes back with what the cache held before.
  const again = open("2026-06-03", day("# A", 1));
  act(() => again.result.current.type("# A b c"));
  await act(() => again.result.current.save());
  expect(bodies.map((body) => body.version)).toEqual([1, 2]);
  expect(again.result.current.status.state).toBe("saved");
});

test("a lost answer met as a conflict with the same text is a save", async () => {
  answer = (body) => json({ detail: "saved", newer: day(body.text, 5) }, 409);
  const hook = open("2026-06-04", day("# A", 1));
  act(() => hook.result.current.type("# A b"));
  await act(() => hook.result.current.save());
  expect(hook.result.current.status).toMatchObject({ state: "saved", version: 5 });
});

test("another person's text is a conflict, and mine stays", async () => {
  answer = () => json({ detail: "Cyril saved", newer: day("# Theirs", 5) }, 409);
  const hook = open("2026-06-05", day("# A", 1));
  act(() => hook.result.current.type("# Mine"));
  await act(() => hook.result.current.save());
  expect(hook.result.current.status.state).toBe("conflict");
  expect(findDraft("2026-06-05")?.text).toBe("# Mine");
});

test("a save that asks where scores belong waits for the answer and sends it with the text", async () => {
  const question = { key: "4", title: "Neap", why: "gone", scores: [], jots: 0, likely: null };
  answer = (body) =>
    body.answers?.length
      ? json(day(body.text, 2))
      : json({ detail: "asked", newer: null, questions: [question], titles: [] }, 409);
  const hook = open("2026-06-06", day("# A", 1));
  act(() => hook.result.current.type("# Nothing"));
  await act(() => hook.result.current.save());
  expect(hook.result.current.status.state).toBe("asked");
  await act(() => hook.result.current.answer([{ key: "4", place: null }]));
  expect(hook.result.current.status.state).toBe("saved");
  expect(bodies.at(-1)?.answers).toEqual([{ key: "4", place: null }]);
});

test("a draft that was found is offered, and saved only when its writer says so", async () => {
  keepDraft("2026-06-07", { text: "# Draft", version: 3, at: 1 });
  const hook = open("2026-06-07", day("# Old", 3));
  expect(hook.result.current.first).toBe("# Draft");
  expect(hook.result.current.status).toEqual({ state: "restored", at: 1 });
  window.dispatchEvent(new Event("online"));
  await act(() => new Promise((done) => setTimeout(done, 1200)));
  expect(bodies).toEqual([]);
  hook.unmount();
  expect(bodies).toEqual([]);
  const again = open("2026-06-07", day("# Old", 3));
  await act(() => again.result.current.save());
  expect(again.result.current.status.state).toBe("saved");
  expect(bodies).toMatchObject([{ text: "# Draft", version: 3 }]);
});

test("a draft that was found can be left, and is gone then", async () => {
  keepDraft("2026-06-17", { text: "# Draft", version: 3, at: 1 });
  const hook = open("2026-06-17", day("# Old", 3));
  let text = "";
  act(() => {
    text = hook.result.current.discard();
  });
  expect(text).toBe("# Old");
  expect(findDraft("2026-06-17")).toBeNull();
  expect(hook.result.current.status.state).toBe("saved");
});

test("what one coach typed is not found by the next who signs in", async () => {
  setGuard("first", 1);
  keepDraft("2026-06-18", { text: "# Mine", version: 1, at: 1 });
  setGuard("second", 2);
  const hook = open("2026-06-18", day("# Old", 1));
  expect(hook.result.current.first).toBe("# Old");
  hook.unmount();
  setGuard("third", 1);
  expect(open("2026-06-18", day("# Old", 1)).result.current.first).toBe("# Mine");
});

test("a page that was left as it is follows what somebody else saves", async () => {
  const shown: string[] = [];
  let hear: (text: string) => void = () => undefined;
  const hook = open("2026-06-08", day("# A", 1), (text) => {
    shown.push(text);
    hear(text); // The editor tells every change of its text, this one as well.
    return true;
  });
  hear = hook.result.current.type;
  hook.rerender(day("# Theirs", 2));
  expect(shown).toEqual(["# Theirs"]);
  expect(hook.result.current.status).toMatchObject({ state: "saved", version: 2 });
  expect(findDraft("2026-06-08")).toBeNull();
  act(() => hook.result.current.type("# Theirs and mine"));
  await act(() => hook.result.current.save());
  expect(bodies).toMatchObject([{ text: "# Theirs and mine", version: 2 }]);
  expect(hook.result.current.status.state).toBe("saved");
});

test("what was typed here is never replaced by what somebody else saves", async () => {
  const shown: string[] = [];
  answer = () => json({ detail: "Cyril saved", newer: day("# Theirs", 2) }, 409);
  const hook = open("2026-06-09", day("# A", 1), (text) => shown.push(text) > 0);
  act(() => hook.result.current.type("# Mine"));
  hook.rerender(day("# Theirs", 2));
  expect(shown).toEqual([]);
  await act(() => hook.result.current.save());
  expect(bodies).toMatchObject([{ text: "# Mine", version: 1 }]);
  expect(hook.result.current.status.state).toBe("conflict");
});

test("where the other's text cannot be shown yet, a save on top of it is still a conflict", async () => {
  answer = () => json({ detail: "Cyril saved", newer: day("# Theirs", 2) }, 409);
  const hook = open("2026-06-10", day("# A", 1), () => false);
  hook.rerender(day("# Theirs", 2));
  act(() => hook.result.current.type("# A b"));
  await act(() => hook.result.current.save());
  expect(bodies).toMatchObject([{ version: 1 }]);
  expect(hook.result.current.status.state).toBe("conflict");
});

test("typed and taken back is what stands saved, and is not sent", async () => {
  const hook = open("2026-06-11", day("# A", 1));
  act(() => hook.result.current.type("# A b"));
  act(() => hook.result.current.type("# A"));
  expect(hook.result.current.status).toMatchObject({ state: "saved", version: 1 });
  await new Promise((done) => setTimeout(done, 1200));
  expect(bodies).toEqual([]);
});

test("a page that changed nothing sends nothing when the network comes back", async () => {
  open("2026-06-12", day("# A", 1));
  act(() => void window.dispatchEvent(new Event("online")));
  await new Promise((done) => setTimeout(done, 50));
  expect(bodies).toEqual([]);
});

test("what is typed in one programme is saved there, though another is looked at by then", async () => {
  chooseProgramme(2);
  const club = open("2026-06-14", day("# Club", 3));
  act(() => club.result.current.type("# Club night"));
  chooseProgramme(null);
  club.unmount();
  const daily = open("2026-06-14", day("# Daily", 7));
  // The draft of the one is not offered in the other.
  expect(daily.result.current.first).toBe("# Daily");
  await waitFor(() => expect(searched).toEqual(["?in_programme=2"]));
  expect(bodies).toMatchObject([{ text: "# Club night", version: 3 }]);
  act(() => daily.result.current.type("# Daily bread"));
  await act(() => daily.result.current.save());
  expect(searched.at(-1)).toBe("");
  expect(bodies.at(-1)).toMatchObject({ text: "# Daily bread", version: 7 });
});
