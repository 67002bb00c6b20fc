import { afterEach, expect, test, vi } from "vitest";
import { chooseProgramme, fileAt, inProgramme, programme } from "./programme";

afterEach(() => {
  chooseProgramme(null);
  localStorage.clear();
  sessionStorage.clear();
});

test("a request is about the page's programme, unless it names its own", () => {
  expect(inProgramme({ tier: 1 })).toEqual({ tier: 1 });
  chooseProgramme(2);
  expect(inProgramme({ tier: 1 })).toEqual({ tier: 1, in_programme: 2 });
  expect(inProgramme({ in_programme: 3 })).toEqual({ in_programme: 3 });
  // What was entered under the first programme is sent to the first.
  expect(inProgramme({ in_programme: null })).toEqual({});
});

test("addresses of files carry it", () => {
  expect(fileAt("/api/week/2026-11-26/boards")).toBe("/api/week/2026-11-26/boards");
  chooseProgramme(2);
  expect(fileAt("/api/x")).toBe("/api/x?in_programme=2");
  expect(fileAt("/api/x?tier=0")).toBe("/api/x?tier=0&in_programme=2");
});

test("a tab keeps its programme, a new one begins with the last chosen", async () => {
  chooseProgramme(2);
  sessionStorage.setItem("pine-programme", "3");
  vi.resetModules();
  expect((await import("./programme")).programme()).toBe(3);
  sessionStorage.clear();
  vi.resetModules();
  expect((await import("./programme")).programme()).toBe(2);
  expect(programme()).toBe(2);
});
