// What is typed is kept in the browser, whatever state its storage is in.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { dropDraft, findDraft, keepDraft } from "./drafts";

const DRAFT = { text: "EMOM 12\n15 KBS", version: 3, at: 1_780_000_000_000 };

beforeEach(() => localStorage.clear());
afterEach(() => vi.restoreAllMocks());

test("a draft is found again on its own day, and on no other", () => {
  keepDraft("2026-06-04", DRAFT);
  expect(findDraft("2026-06-04")).toEqual(DRAFT);
  expect(findDraft("2026-06-05")).toBeNull();
});

test("a later draft takes the place of an earlier one, and a dropped one is gone", () => {
  keepDraft("2026-06-04", DRAFT);
  keepDraft("2026-06-04", { ...DRAFT, text: "EMOM 10" });
  expect(findDraft("2026-06-04")?.text).toBe("EMOM 10");
  dropDraft("2026-06-04");
  expect(findDraft("2026-06-04")).toBeNull();
});

test("a full storage stops nobody from typing", () => {
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  expect(() => keepDraft("2026-06-04", DRAFT)).not.toThrow();
});

test("a draft that cannot be read is no draft", () => {
  localStorage.setItem("pine-draft:2026-06-04", "{not json");
  expect(findDraft("2026-06-04")).toBeNull();
});
