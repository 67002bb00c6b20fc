// The path of its host under which the application is served: mostly none, or such as `/ladder`.

const told = document.querySelector("base")?.getAttribute("href") ?? "/";

/** That path without a slash at its end. */
export const base = told.replace(/\/$/, "");

/** An address of the application, `/week`, as the browser knows it. */
export const at = (path: string): string => `${base}${path}`;

/** Where the browser is, as the application knows it. */
export const pathHere = (): string => {
  const { pathname } = window.location;
  return base && pathname.startsWith(`${base}/`) ? pathname.slice(base.length) : pathname;
};
