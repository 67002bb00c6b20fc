// A form that was typed in and not saved is not left by a slip: every form of the program.

import { LEAVING } from "./leaving";

const MARK = "data-unsaved";
const QUESTION = "What you typed here is not saved. Leave without saving?";

const unsaved = (): HTMLElement | null => document.querySelector(`form[${MARK}]`);

/** Whether the page may be left: nothing unsaved, or the person says so. */
function asked(): boolean {
  const form = unsaved();
  if (form === null) return true;
  if (!window.confirm(QUESTION)) return false;
  for (const one of document.querySelectorAll(`form[${MARK}]`)) one.removeAttribute(MARK);
  return true;
}

const formOf = (event: Event): HTMLFormElement | null =>
  event.target instanceof Element ? event.target.closest("form") : null;

/** A plain press on a link to another page of the program. */
function leaves(event: MouseEvent): boolean {
  if (event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) {
    return false;
  }
  const link = event.target instanceof Element ? event.target.closest("a[href]") : null;
  if (!(link instanceof HTMLAnchorElement) || link.target || link.hasAttribute("download")) {
    return false;
  }
  return link.origin === window.location.origin && link.pathname !== window.location.pathname;
}

/** Watch over all forms from now on; the answer ends it. */
export function guardForms(): () => void {
  const stop = new AbortController();
  const { signal } = stop;
  const options = { capture: true, signal };
  let here = window.location.href;
  for (const name of ["input", "change"] as const) {
    document.addEventListener(name, (event) => formOf(event)?.setAttribute(MARK, ""), options);
  }
  document.addEventListener(
    LEAVING,
    (event) => {
      if (!asked()) event.preventDefault();
    },
    { signal },
  );
  document.addEventListener("submit", (event) => formOf(event)?.removeAttribute(MARK), options);
  document.addEventListener("reset", (event) => formOf(event)?.removeAttribute(MARK), options);
  document.addEventListener(
    "click",
    (event) => {
      if (!leaves(event) || asked()) return;
      event.preventDefault();
      event.stopPropagation();
    },
    options,
  );
  window.addEventListener(
    "popstate",
    (event) => {
      if (asked()) {
        here = window.location.href;
        return;
      }
      // Back where the form is: the browser has gone already.
      event.stopImmediatePropagation();
      window.history.pushState(event.state, "", here);
    },
    options,
  );
  window.addEventListener(
    "beforeunload",
    (event) => {
      if (unsaved()) event.preventDefault();
    },
    { signal },
  );
  document.addEventListener(
    "focusin",
    () => {
      here = window.location.href;
    },
    options,
  );
  return () => stop.abort();
}
