// A form's value: what is typed, saved, refused, taken back, or saved by somebody else meanwhile.
import { act, renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import { useEdited } from "./useEdited";

const start = { name: "Kittiwake Hall", size: 12, kit: { rower: 6 } };
const opened = () => renderHook(() => useEdited(start)).result;

test("a form is unsaved while it differs from what was saved, and no longer", () => {
  const form = opened();
  act(() => form.current.set({ size: 14 }));
  expect(form.current.unsaved).toBe(true);
  act(() => form.current.set({ size: 12 }));
  expect(form.current.unsaved).toBe(false);
});

test("discarding brings back what was saved last", () => {
  const form = opened();
  act(() => form.current.set({ size: 14 }));
  act(() => form.current.takeSaved(form.current.value, { ...start, size: 14 }));
  act(() => form.current.set({ name: "Old Slip" }));
  act(() => form.current.discard());
  expect(form.current.value).toEqual({ ...start, size: 14 });
  expect(form.current.unsaved).toBe(false);
});

test("what is typed while a form is being saved stays typed, and unsaved", () => {
  const form = opened();
  act(() => form.current.set({ size: 14 }));
  const sent = form.current.value;
  act(() => form.current.set({ name: "Old Slip" }));
  act(() => form.current.takeSaved(sent, { ...start, size: 14 }));
  expect(form.current.value).toEqual({ ...start, size: 14, name: "Old Slip" });
  expect(form.current.unsaved).toBe(true);
});

test("a refusal keeps what was typed and goes with the next change", () => {
  const form = opened();
  act(() => form.current.set({ size: 0 }));
  act(() => form.current.refuse("A class needs a place."));
  expect(form.current.outcome).toEqual({ saved: false, text: "A class needs a place." });
  expect(form.current.value.size).toBe(0);
  act(() => form.current.set({ size: 1 }));
  expect(form.current.outcome).toBeNull();
});

test("what somebody else saved comes in beside what is typed, and is told where both changed", () => {
  const form = opened();
  act(() => form.current.takeOthers({ ...start, size: 20 }, "Look at it."));
  expect(form.current.value.size).toBe(20);
  expect(form.current.outcome).toBeNull();
  act(() => form.current.set({ name: "Old Slip" }));
  act(() => form.current.takeOthers({ ...start, size: 24 }, "Look at it."));
  expect(form.current.value).toEqual({ ...start, size: 24, name: "Old Slip" });
  expect(form.current.outcome?.text).toBe("Look at it.");
});
