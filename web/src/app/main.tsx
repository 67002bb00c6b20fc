// The entry: theme, server state, and which screen stands at which address.
import { base, pathHere } from "../api/base";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource/barlow-condensed/500.css";
import "@fontsource/barlow-condensed/600.css";
import "./mantine.css";
import "./base.css";
import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { myDay } from "../api/queries";
import { makeClient } from "./client";
import { reloadOnce, Unbroken } from "./ErrorScreen";
import { Screens } from "./Screens";
import { storedQueries } from "./storedQueries";
import { theme } from "./theme";
import { registerWorker } from "./worker";

reloadOnce();
registerWorker();
// Not part of the first visit: nothing is typed yet.
void import("./unsaved").then(({ guardForms }) => guardForms());

const client = makeClient();

/** In development an address may ask for a screen that waits, fails or has no network. */
async function pretended(): Promise<string | null> {
  if (!import.meta.env.DEV) return null;
  const { pretend, stateAsked } = await import("../dev/pretend");
  const state = stateAsked(window.location.search);
  if (state) pretend(state);
  return state;
}

/** The page asks for its styles without waiting for them; the first screen waits. */
function dressed(): Promise<unknown> {
  const asked = document.querySelectorAll<HTMLLinkElement>('link[rel="preload"][as="style"]');
  const worn = [...asked].map((link) => {
    const there = new Promise((done) => {
      link.onload = done;
      link.onerror = done;
    });
    link.rel = "stylesheet";
    return there;
  });
  return Promise.all(worn);
}

// Not awaited at the top of the module: what other parts share with it would come apart from it.
void Promise.all([pretended(), dressed()]).then(([state]) =>
  createRoot(document.getElementById("root") as HTMLElement).render(
    <StrictMode>
      <MantineProvider theme={theme} defaultColorScheme="auto">
        <Notifications position="bottom-center" />
        <PersistQueryClientProvider
          client={client}
          // Stored answers would be shown instead of a state that is looked at.
          persistOptions={state ? { ...storedQueries, buster: state } : storedQueries}
          // What was kept is shown at once and read anew: it may be older than it looks.
          onSuccess={() => {
            client.invalidateQueries();
            // An athlete's day comes along with who they are, not after it.
            const [, date] = /^\/me\/(\d{4}-\d\d-\d\d)$/.exec(pathHere()) ?? [];
            if (date) client.prefetchQuery(myDay(date));
          }}
        >
          <BrowserRouter basename={base}>
            <Unbroken>
              <Screens />
            </Unbroken>
          </BrowserRouter>
        </PersistQueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  ),
);
