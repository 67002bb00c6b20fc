// Who is signed in decides which screens there are.

import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useSyncExternalStore } from "react";
import { Navigate, Route, Routes, useMatch } from "react-router";
import { pathHere } from "../api/base";
import { chooseProgramme, useProgramme } from "../api/programme";
import { frontDoor, gym, me } from "../api/queries";
import { useLines } from "../api/useLines";
import { Failed, Waiting } from "../ui/states";
import { isSignedOut, onSignedOut } from "./client";
import { Shell } from "./Shell";

const SignIn = lazy(() => import("../screens/signin/SignIn").then((m) => ({ default: m.SignIn })));
const SignedOut = lazy(() => import("./SignedOut").then((m) => ({ default: m.SignedOut })));
const Day = lazy(() => import("../screens/day/Day").then((m) => ({ default: m.Day })));
const Week = lazy(() => import("../screens/week/Week").then((m) => ({ default: m.Week })));
const Movements = lazy(() =>
  import("../screens/movements/Movements").then((m) => ({ default: m.Movements })),
);
const Athletes = lazy(() =>
  import("../screens/athletes/Athletes").then((m) => ({ default: m.Athletes })),
);
const Bests = lazy(() => import("../screens/bests/Bests").then((m) => ({ default: m.Bests })));
const Gym = lazy(() => import("../screens/gym/Gym").then((m) => ({ default: m.Gym })));
const People = lazy(() => import("../screens/people/People").then((m) => ({ default: m.People })));
const SetupChecklist = lazy(() =>
  import("../screens/gym/SetupChecklist").then((m) => ({ default: m.SetupChecklist })),
);
const SetUp = lazy(() => import("../screens/signin/SetUp").then((m) => ({ default: m.SetUp })));
const Join = lazy(() => import("../screens/signin/Join").then((m) => ({ default: m.Join })));
const Account = lazy(() => import("../screens/me/Account").then((m) => ({ default: m.Account })));
const AboutMe = lazy(() => import("../screens/me/AboutMe").then((m) => ({ default: m.AboutMe })));
/** Every screen in its states: in development alone. */
const States = import.meta.env.DEV
  ? lazy(() => import("../dev/States").then((m) => ({ default: m.States })))
  : null;
const MyDay = lazy(() => import("../screens/me/MyDay").then((m) => ({ default: m.MyDay })));

// The screen that the address asks for comes along with who is signed in, not after it.
if (pathHere().startsWith("/me/")) void import("../screens/me/MyDay");
if (pathHere().startsWith("/day/")) void import("../screens/day/Day");

export function Screens() {
  const joining = useMatch("/join/:token");
  if (joining?.params.token) {
    return (
      <Suspense fallback={<Waiting />}>
        <Join token={joining.params.token} />
      </Suspense>
    );
  }
  return <Inside />;
}

/** Where nobody is signed in: a gym to open where there is none yet, its front door else. */
function Door() {
  const door = useQuery(frontDoor);
  if (door.isPending) return <Waiting />;
  return door.data?.opened === false ? <SetUp /> : <SignIn />;
}

function Inside() {
  const who = useQuery(me);
  const hall = useQuery({ ...gym, enabled: Boolean(who.data) || who.isPending });
  const out = useSyncExternalStore(onSignedOut, isSignedOut);
  const line = useProgramme();
  const lines = useLines(who.data);
  // What is looked at is one of the programmes there are for them.
  const astray = lines.length > 0 && !lines.some((one) => one.line === line);
  useEffect(() => {
    if (astray) chooseProgramme(lines[0]?.line ?? null);
  });
  if (who.isPending) return <Shell />;
  if (!who.data) {
    if (who.error?.status === 401) {
      return (
        <Suspense fallback={<Waiting />}>
          <Door />
        </Suspense>
      );
    }
    return <Failed error={who.error as Error} retry={() => who.refetch()} />;
  }
  if (hall.error && !hall.data) {
    return <Failed error={hall.error} retry={() => hall.refetch()} />;
  }
  if (!hall.data) return <Shell />;
  const props = { me: who.data, gym: hall.data };
  const coach = who.data.role === "coach";
  const { trains } = who.data;
  const home = coach ? `/day/${hall.data.today}/write` : `/me/${hall.data.today}`;
  return (
    <Suspense fallback={<Shell />}>
      {/* Each programme has its own screens: nothing typed in one is left standing in another. */}
      <Routes key={line}>
        {coach && <Route path="/day/:date/:step" element={<Day {...props} />} />}
        {coach && <Route path="/week/:date" element={<Week {...props} />} />}
        {coach && <Route path="/athletes/:id?" element={<Athletes {...props} />} />}
        {coach && <Route path="/gym" element={<Gym {...props} />} />}
        {coach && <Route path="/first-evening" element={<SetupChecklist {...props} />} />}
        {coach && <Route path="/people" element={<People {...props} />} />}
        {trains && <Route path="/profile/:part?" element={<AboutMe {...props} />} />}
        {trains && <Route path="/me/:date" element={<MyDay {...props} />} />}
        <Route path="/account" element={<Account {...props} />} />
        <Route path="/bests" element={<Bests {...props} />} />
        <Route path="/movements/:name?" element={<Movements {...props} />} />
        {States && <Route path="/dev/states" element={<States today={hall.data.today} />} />}
        <Route path="*" element={<Navigate to={home} replace />} />
      </Routes>
      {/* The sign-in ended: the screen below stays as it is, with all that was typed. */}
      {out && (
        <Suspense>
          <SignedOut />
        </Suspense>
      )}
    </Suspense>
  );
}
