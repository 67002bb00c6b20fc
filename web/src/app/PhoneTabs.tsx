// On a phone: the places within reach of a thumb. The last tab opens all others.
import { lazy, Suspense } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useOpened } from "./opened";
import styles from "./PhoneTabs.module.css";

const MorePlaces = lazy(() => import("./MorePlaces").then((m) => ({ default: m.MorePlaces })));

type Tab = { label: string; to: string; here: boolean };

/** The tabs of a coach and of an athlete; `at` is the step of the day or the place shown. */
function tabsOf(me: Schemas["Me"], date: string, at: string, path: string): Tab[] {
  if (me.role === "coach") {
    return [
      { label: "Week", to: `/week/${date}`, here: at === "week" },
      { label: "Write", to: `/day/${date}/write`, here: at === "write" },
      { label: "Run", to: `/day/${date}/run`, here: at === "run" },
      { label: "Score", to: `/day/${date}/score`, here: at === "score" },
    ];
  }
  const bests = path.startsWith("/profile/bests");
  return [
    { label: "Today", to: `/me/${date}`, here: at === "" },
    { label: "Progress", to: "/profile", here: at === "me" && !bests },
    { label: "Bests", to: "/profile/bests", here: bests },
  ];
}

export function PhoneTabs({
  me,
  date,
  at,
  path,
}: {
  me: Schemas["Me"];
  date: string;
  /** The step or place that is shown; empty on an athlete's day. */
  at: string;
  path: string;
}) {
  const [opened, more] = useOpened("more places");
  const tabs = tabsOf(me, date, at, path);
  const elsewhere = !tabs.some((one) => one.here);
  const last = me.role === "coach" ? "More" : "Me";
  return (
    <>
      <nav className={styles.tabs} aria-label="Tabs">
        {tabs.map((one) => (
          <Link key={one.label} to={one.to} aria-current={one.here ? "page" : undefined}>
            {one.label}
          </Link>
        ))}
        <button
          type="button"
          aria-haspopup="dialog"
          data-here={elsewhere || undefined}
          onClick={more.open}
        >
          {last}
        </button>
      </nav>
      {opened && (
        <Suspense>
          <MorePlaces me={me} date={date} close={more.close} />
        </Suspense>
      )}
    </>
  );
}
