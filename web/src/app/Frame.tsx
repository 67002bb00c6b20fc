// The frame: the gym's name, the day and its steps, and the person.
import { ActionIcon, useComputedColorScheme, useMantineColorScheme } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { useLines } from "../api/useLines";
import { useSending, useWaiting } from "../offline/outbox";
import { brief, shift } from "../ui/dates";
import { useShortcuts } from "../ui/hotkeys";
import { useOnline } from "../ui/states";
import styles from "./Frame.module.css";
import { mayLeave } from "./leaving";
import { useOpened } from "./opened";
import { PhoneTabs } from "./PhoneTabs";

// What only a press opens is not part of the first visit; without a network it comes from the
// device, where the whole program is kept.
const PersonMenu = lazy(() => import("./PersonMenu").then((m) => ({ default: m.PersonMenu })));
const ProgrammeSwitch = lazy(() =>
  import("./ProgrammeSwitch").then((m) => ({ default: m.ProgrammeSwitch })),
);
const UnsentList = lazy(() => import("./UnsentList").then((m) => ({ default: m.UnsentList })));
const Palette = lazy(() => import("./Palette").then((m) => ({ default: m.Palette })));
const Shortcuts = lazy(() => import("./Shortcuts").then((m) => ({ default: m.Shortcuts })));

type Me = Schemas["Me"];

const NO_KEYS = {};

const STEPS = [
  { step: "write", label: "Write", key: "w" },
  { step: "scale", label: "Scale", key: "r" },
  { step: "run", label: "Run", key: "g" },
  { step: "score", label: "Score", key: "s" },
  { step: "compare", label: "Compare", key: "c" },
] as const;

export type Step = (typeof STEPS)[number]["step"];

function Mark() {
  return (
    <svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
      <path
        d="M9 29 16 3l7 26M12.8 15h6.4M11.4 20h9.2M10 25h12"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.2"
        strokeLinecap="round"
      />
    </svg>
  );
}

/** The name of who is signed in. The menu under it comes with the first press. */
function Person({ me }: { me: Me }) {
  const [pressed, press] = useDisclosure();
  const name = (
    <button type="button" className={styles.who} aria-haspopup="menu" onClick={press.open}>
      {me.name}
    </button>
  );
  if (!pressed) return name;
  return (
    <Suspense fallback={name}>
      <PersonMenu me={me} />
    </Suspense>
  );
}

/** How much waits on this device to be sent, and how much was refused; pressed it says what. */
function Unsent({ me }: { me: number }) {
  const waiting = useWaiting(me);
  const [opened, list] = useOpened("unsent");
  useSending(me);
  const refused = waiting.filter((one) => one.refused).length;
  return (
    <>
      {waiting.length > 0 && (
        <span role="status">
          <button type="button" className={`${styles.unsent} num`} onClick={list.open}>
            {waiting.length} unsent{refused > 0 && ` · ${refused} refused`}
          </button>
        </span>
      )}
      {opened && (
        <Suspense>
          <UnsentList me={me} close={list.close} />
        </Suspense>
      )}
    </>
  );
}

/** The switch between programmes, where there is more than one to look at. */
function Switch({ me }: { me: Me }) {
  const lines = useLines(me);
  return lines.length > 1 ? (
    <Suspense>
      <ProgrammeSwitch lines={lines} />
    </Suspense>
  ) : null;
}

function LightSwitch() {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme("light");
  const next = scheme === "dark" ? "light" : "dark";
  return (
    <ActionIcon
      variant="transparent"
      color="chalk"
      aria-label={`Switch to ${next}`}
      title={`Switch to ${next}`}
      onClick={() => setColorScheme(next)}
    >
      {scheme === "dark" ? "☀" : "☾"}
    </ActionIcon>
  );
}

const NAMES: Record<string, string> = {
  write: "Write",
  scale: "Scale",
  run: "Run",
  score: "Score",
  compare: "Compare",
  week: "Week",
  movements: "Movements",
  athletes: "Athletes",
  bests: "Bests",
  me: "My day",
  gym: "Gym",
  account: "Account",
};

/** Names the page, and takes the focus along to a screen that replaced another. */
function useHere(name: string, date: string, gymName: string, screen?: string) {
  const main = useRef<HTMLElement>(null);
  useEffect(() => {
    document.title = [name, brief(date), gymName].filter(Boolean).join(" · ");
  }, [name, date, gymName]);
  useEffect(() => {
    const before = shownScreen;
    shownScreen = screen ?? "me";
    const inside = main.current?.contains(document.activeElement);
    // From day to day the focus stays on the arrow that was pressed.
    if (before !== null && before !== shownScreen && !inside) {
      main.current?.focus({ preventScroll: true });
    }
  }, [screen]);
  return main;
}

function Offline() {
  if (useOnline()) return null;
  return (
    <span role="status" className={styles.offline}>
      Offline
    </span>
  );
}

let shownScreen: string | null = null;

/** The day and step an address names; null where it names no day. */
export function whereabouts(path: string): { date: string; step?: string } | null {
  const found = /^\/(?:day|me|week)\/(\d{4}-\d{2}-\d{2})(?:\/(\w+))?/.exec(path);
  return found?.[1] ? { date: found[1], step: found[2] } : null;
}

export function Frame({
  me,
  gymName,
  today,
  date: day,
  step,
  place,
  title,
  bare = false,
  children,
}: {
  me: Me;
  gymName: string;
  today: string;
  date?: string;
  step?: Step;
  place?: "week" | "movements" | "athletes" | "bests" | "me" | "gym" | "account";
  title?: string;
  /** Without header and keys: the whole screen is the floor's. What waits is sent all the same. */
  bare?: boolean;
  children: React.ReactNode;
}) {
  const date = day ?? today;
  const go = useNavigate();
  const navigate = useCallback((to: string) => mayLeave() && go(to), [go]);
  const [listing, list] = useOpened("shortcuts");
  const { pathname } = useLocation();
  const coach = me.role === "coach";
  const keys = useMemo(() => {
    // A quick hand presses the next key before the screen of the last is there: it goes by the
    // address, which is ahead of what is shown.
    const here = () => whereabouts(location.pathname) ?? { date, step };
    const to = (day: string, next = here().step ?? (place && "write")) =>
      navigate(coach && next ? `/day/${day}/${next}` : `/me/${day}`);
    return {
      ...(coach
        ? Object.fromEntries(STEPS.map((s) => [s.key, () => to(here().date, s.step)]))
        : {}),
      "[": () => to(shift(here().date, -1)),
      "]": () => to(shift(here().date, 1)),
      t: () => to(today),
      ...(coach
        ? {
            k: () => navigate(`/week/${here().date}`),
            m: () => navigate("/movements"),
            a: () => navigate("/athletes"),
          }
        : {}),
      // In Write the notation's card opens, which names this list.
      ...(step === "write" ? {} : { "?": list.open }),
    };
  }, [coach, date, list.open, navigate, place, step, today]);
  useShortcuts(bare ? NO_KEYS : keys);
  const [pressed, press] = useState(0);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      press((times) => times + 1);
    };
    window.addEventListener("keydown", listen, true);
    return () => window.removeEventListener("keydown", listen, true);
  }, []);
  const main = useHere(
    [NAMES[step ?? place ?? "me"], title].filter(Boolean).join(": "),
    date,
    gymName,
    step ?? place,
  );
  // A screen of the day is headed by the day; the others have headings of their own.
  const Name = place ? "span" : "h1";
  // A coach who trains has a day of their own, beside those of the gym.
  const mine = !coach || (!step && !place);
  const address = (day: string) => (mine ? `/me/${day}` : `/day/${day}/${step ?? "write"}`);
  return (
    <>
      {!bare && (
        <a href={`${window.location.pathname}#main`} className={styles.skip}>
          To the content
        </a>
      )}
      <header className={styles.frame} hidden={bare}>
        <Link to="/" className={styles.brand} aria-label={`Pine Ladder, ${gymName}`}>
          <Mark />
          <span className={styles.name}>{gymName}</span>
        </Link>
        <Switch me={me} />
        <nav className={styles.places} aria-label="Places">
          {coach && (
            <>
              <Link to={`/week/${date}`} aria-current={place === "week" ? "page" : undefined}>
                Week
              </Link>
              <Link to="/athletes" aria-current={place === "athletes" ? "page" : undefined}>
                Athletes
              </Link>
            </>
          )}
          <Link to="/movements" aria-current={place === "movements" ? "page" : undefined}>
            Movements
          </Link>
          <Link to="/bests" aria-current={place === "bests" ? "page" : undefined}>
            Bests
          </Link>
          {coach && (
            <Link to="/gym" aria-current={place === "gym" ? "page" : undefined}>
              Gym
            </Link>
          )}
          {coach && me.trains && <Link to={`/me/${date}`}>My day</Link>}
          {me.trains && (
            <Link to="/profile" aria-current={place === "me" ? "page" : undefined}>
              About me
            </Link>
          )}
        </nav>
        <nav className={styles.dayNav} aria-label="Day">
          <Link to={address(shift(date, -1))} aria-label="Day before">
            ‹
          </Link>
          <Name className={styles.dayName}>
            <b>{date === today ? brief(date).replace(/^\w+/, "Today") : brief(date)}</b>
            {title && (
              <span className={styles.dayTitle} title={title}>
                {" "}
                · {title}
              </span>
            )}
          </Name>
          <Link to={address(shift(date, 1))} aria-label="Day after">
            ›
          </Link>
        </nav>
        {coach && (
          <nav className={styles.steps} aria-label="Steps of the day">
            {STEPS.map((s) => (
              <Link
                key={s.step}
                to={`/day/${date}/${s.step}`}
                aria-current={s.step === step ? "page" : undefined}
              >
                {s.label}
              </Link>
            ))}
          </nav>
        )}
        <div className={styles.end}>
          <Offline />
          <Unsent me={me.id} />
          <ActionIcon
            variant="transparent"
            color="chalk"
            onClick={() => press((times) => times + 1)}
            aria-label="Go to"
            title="Go to a day, an athlete, a movement (Ctrl K)"
          >
            ⌕
          </ActionIcon>
          <ActionIcon
            className={styles.byKeys}
            variant="transparent"
            color="chalk"
            onClick={list.open}
            aria-label="Shortcuts"
            title="Shortcuts"
          >
            ?
          </ActionIcon>
          <LightSwitch />
          <Person me={me} />
        </div>
      </header>
      <main id="main" ref={main} tabIndex={-1}>
        {children}
      </main>
      {!bare && (
        <PhoneTabs
          me={me}
          date={date}
          at={coach && mine && !place ? "me" : (step ?? place ?? "")}
          path={pathname}
        />
      )}
      {pressed > 0 && (
        <Suspense>
          <Palette me={me} today={today} date={date} press={pressed} />
        </Suspense>
      )}
      {listing && (
        <Suspense>
          <Shortcuts opened close={list.close} />
        </Suspense>
      )}
    </>
  );
}
