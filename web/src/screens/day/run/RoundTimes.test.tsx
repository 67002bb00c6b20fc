// Typing survives what arrives while it goes on.
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { Field } from "./RoundTimes";

afterEach(cleanup);

test("a live value that arrives while a number is typed does not take it away", () => {
  const done = vi.fn();
  const field = (value: string) => <Field value={value} label="Ada, round 1" onDone={done} />;
  const shown = render(field(""));
  const input = screen.getByLabelText<HTMLInputElement>("Ada, round 1");
  input.focus();
  fireEvent.change(input, { target: { value: "1" } });
  shown.rerender(field("12"));
  expect(screen.getByLabelText<HTMLInputElement>("Ada, round 1")).toBe(input);
  expect(input.value).toBe("1");
  fireEvent.change(input, { target: { value: "18" } });
  fireEvent.blur(input);
  expect(done).toHaveBeenCalledExactlyOnceWith("18");
  shown.rerender(field("18"));
  expect(input.value).toBe("18");
});

test("a field that was only looked at keeps what arrives and says nothing", () => {
  const done = vi.fn();
  const field = (value: string) => <Field value={value} label="Ada" onDone={done} />;
  const shown = render(field("10"));
  const input = screen.getByLabelText<HTMLInputElement>("Ada");
  fireEvent.focus(input);
  shown.rerender(field("11"));
  fireEvent.blur(input);
  expect([input.value, done.mock.calls.length]).toEqual(["11", 0]);
});
