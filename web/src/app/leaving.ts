// Leaving a page by a key or a list: whoever watches over what is unsaved is asked first.

export const LEAVING = "pine-leaving";

/** Whether the page may be left. */
export const mayLeave = (): boolean =>
  document.dispatchEvent(new Event(LEAVING, { cancelable: true }));
