// The entry: theme, server state, and which screen stands at which address.
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource/barlow-condensed/500.css";
import "@fontsource/barlow-condensed/600.css";
import "@mantine/core/styles.css";
import "@mantine/notifications/styles.css";
import "./theme.css";
import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { Refusal } from "./api/client";
import { gym, me } from "./api/queries";
import { Failed, Waiting } from "./parts/states";
import { theme } from "./theme";

const SignIn = lazy(() => import("./signin/SignIn").then((m) => ({ default: m.SignIn })));
const Day = lazy(() => import("./day/Day").then((m) => ({ default: m.Day })));
const Week = lazy(() => import("./week/Week").then((m) => ({ default: m.Week })));
const Movements = lazy(() =>
  import("./movements/Movements").then((m) => ({ default: m.Movements })),
);
const Athletes = lazy(() => import("./athletes/Athletes").then((m) => ({ default: m.Athletes })));
const Bests = lazy(() => import("./bests/Bests").then((m) => ({ default: m.Bests })));
const Gym = lazy(() => import("./gym/Gym").then((m) => ({ default: m.Gym })));
const AboutMe = lazy(() => import("./me/AboutMe").then((m) => ({ default: m.AboutMe })));
const Wall = lazy(() => import("./wall/Wall").then((m) => ({ default: m.Wall })));
const MyDay = lazy(() => import("./me/MyDay").then((m) => ({ default: m.MyDay })));

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 5_000 } },
});

function Screens() {
  const who = useQuery(me);
  const hall = useQuery({ ...gym, enabled: Boolean(who.data) });
  if (who.isPending) return <Waiting />;
  if (who.error) {
    if (who.error instanceof Refusal && who.error.status === 401) return <SignIn />;
    return <Failed error={who.error} retry={() => who.refetch()} />;
  }
  if (hall.error) return <Failed error={hall.error} retry={() => hall.refetch()} />;
  if (!hall.data) return <Waiting />;
  const props = { me: who.data, gym: hall.data };
  const home =
    who.data.role === "coach" ? `/day/${hall.data.today}/write` : `/me/${hall.data.today}`;
  return (
    <Suspense fallback={<Waiting />}>
      <Routes>
        {who.data.role === "coach" && (
          <Route path="/day/:date/:step" element={<Day {...props} />} />
        )}
        {who.data.role === "coach" && <Route path="/week/:date" element={<Week {...props} />} />}
        {who.data.role === "coach" && (
          <Route path="/athletes/:id?" element={<Athletes {...props} />} />
        )}
        {who.data.role === "coach" && <Route path="/gym" element={<Gym {...props} />} />}
        {who.data.role === "athlete" && <Route path="/profile" element={<AboutMe {...props} />} />}
        <Route path="/bests" element={<Bests {...props} />} />
        <Route path="/movements/:name?" element={<Movements {...props} />} />
        {who.data.role === "athlete" && <Route path="/me/:date" element={<MyDay {...props} />} />}
        <Route path="*" element={<Navigate to={home} replace />} />
      </Routes>
    </Suspense>
  );
}

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <Notifications position="bottom-center" />
      <QueryClientProvider client={client}>
        <BrowserRouter>
          <Suspense fallback={<Waiting />}>
            <Routes>
              <Route path="/wall/:token" element={<Wall />} />
              <Route path="*" element={<Screens />} />
            </Routes>
          </Suspense>
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
