// What was typed into a form is asked about before the page is left.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { mayLeave } from "./leaving";
import { guardForms } from "./unsaved";

let stop: () => void;
const went = vi.fn();
const confirm = vi.fn(() => false);

beforeEach(() => {
  document.body.innerHTML =
    '<a href="/week">Week</a><form><input name="note"><button>Save</button></form><input id="free">';
  stop = guardForms();
  went.mockReset();
  confirm.mockReset();
  confirm.mockReturnValue(false);
  vi.stubGlobal("confirm", confirm);
  document.querySelector("a")?.addEventListener("click", (event) => {
    event.preventDefault();
    went();
  });
});
afterEach(() => stop());

const find = <T extends Element>(what: string): T => document.querySelector<T>(what) as T;
function type(where: string): void {
  find(where).dispatchEvent(new Event("input", { bubbles: true }));
}
const follow = () => find<HTMLElement>("a").click();

test("a page with a form nobody typed in is left unasked", () => {
  follow();
  expect([went.mock.calls.length, confirm.mock.calls.length]).toEqual([1, 0]);
});

test("a form that was typed in is left only when the person says so", () => {
  type("form input");
  follow();
  expect([went.mock.calls.length, confirm.mock.calls.length]).toEqual([0, 1]);
  confirm.mockReturnValue(true);
  follow();
  expect(went).toHaveBeenCalledTimes(1);
  // Said once, it is not asked again.
  follow();
  expect(confirm).toHaveBeenCalledTimes(2);
});

test("a saved form, and a field outside any form, are not asked about", () => {
  type("form input");
  find("form").dispatchEvent(new Event("submit", { bubbles: true, cancelable: true }));
  type("#free");
  expect(mayLeave()).toBe(true);
  expect(confirm).not.toHaveBeenCalled();
});

test("a form that is gone is not asked about", () => {
  type("form input");
  find("form").remove();
  expect(mayLeave()).toBe(true);
});

test("closing the tab is asked about as long as something is unsaved", () => {
  const leave = () => {
    const event = new Event("beforeunload", { cancelable: true });
    window.dispatchEvent(event);
    return event.defaultPrevented;
  };
  expect(leave()).toBe(false);
  type("form input");
  expect(leave()).toBe(true);
});

test("going back with something unsaved stays where the form is", () => {
  const heard = vi.fn();
  window.addEventListener("popstate", heard);
  type("form input");
  window.dispatchEvent(new PopStateEvent("popstate"));
  expect(heard).not.toHaveBeenCalled();
  window.removeEventListener("popstate", heard);
});
