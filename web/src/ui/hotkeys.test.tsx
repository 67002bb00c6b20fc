// Single keys act on the page, never on what is typed or pressed.
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { switchShortcuts, useShortcuts } from "./hotkeys";

const act = vi.fn();

function Page() {
  useShortcuts({ " ": act, n: act });
  return (
    <>
      <button type="button">Hold</button>
      <input aria-label="name" />
      <p>board</p>
    </>
  );
}

beforeEach(() => {
  act.mockReset();
  switchShortcuts(true);
  render(<Page />);
});
afterEach(cleanup);

test("a key on the page acts", () => {
  fireEvent.keyDown(screen.getByText("board"), { key: "n" });
  expect(act).toHaveBeenCalledTimes(1);
});

test("Space on a focused button presses the button, not the clock", () => {
  fireEvent.keyDown(screen.getByRole("button"), { key: " " });
  expect(act).not.toHaveBeenCalled();
});

test("a key typed into a field is the field's", () => {
  fireEvent.keyDown(screen.getByLabelText("name"), { key: "n" });
  expect(act).not.toHaveBeenCalled();
});

test("with Ctrl, Alt or Meta a key is the browser's", () => {
  fireEvent.keyDown(screen.getByText("board"), { key: "n", ctrlKey: true });
  expect(act).not.toHaveBeenCalled();
});

test("switched off, no key acts", () => {
  switchShortcuts(false);
  fireEvent.keyDown(screen.getByText("board"), { key: "n" });
  expect(act).not.toHaveBeenCalled();
});

test("behind an open dialog no key acts, wherever the focus is", () => {
  const dialog = document.createElement("div");
  dialog.setAttribute("role", "dialog");
  dialog.setAttribute("aria-modal", "true");
  document.body.append(dialog);
  fireEvent.keyDown(screen.getByText("board"), { key: "n" });
  expect(act).not.toHaveBeenCalled();
  dialog.remove();
  fireEvent.keyDown(screen.getByText("board"), { key: "n" });
  expect(act).toHaveBeenCalledTimes(1);
});
