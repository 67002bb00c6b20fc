// The frame: the gym's name, the day and its steps, and the person.
import {
  ActionIcon,
  Button,
  Kbd,
  Menu,
  Modal,
  PasswordInput,
  Switch,
  useComputedColorScheme,
  useMantineColorScheme,
} from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { notifications } from "@mantine/notifications";
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { useWrite } from "../api/writes";
import { useSending, useWaiting } from "../offline/outbox";
import { brief, shift } from "../ui/dates";
import { shortcutsOn, switchShortcuts, useShortcuts } from "../ui/hotkeys";
import styles from "./Frame.module.css";
import { KEPT } from "./kept";

type Me = Schemas["Me"];

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

function Shortcuts({ opened, close }: { opened: boolean; close: () => void }) {
  const [on, setOn] = useState(shortcutsOn());
  const rows: [string[], string][] = [
    [["w"], "write the board"],
    [["g"], "run the class"],
    [["s"], "fill the score sheet"],
    [["c"], "compare the results"],
    [["k"], "the week"],
    [["m"], "movements"],
    [["["], "the day before"],
    [["]"], "the day after"],
    [["t"], "today"],
    [["?"], "this list; in Write the card of the notation"],
    [["Ctrl", "Space"], "on the board: offer words"],
    [["Ctrl", "Z"], "on the board: undo"],
    [["Enter"], "on the score sheet: keep the score, go down"],
    [["Alt", "1"], "on the score sheet: first tier (2, 3: the next)"],
    [["Alt", "T"], "on the score sheet: the other track"],
    [["Esc"], "on the score sheet: back to what was kept"],
  ];
  return (
    <Modal opened={opened} onClose={close} title="Shortcuts" size="md">
      <table className={styles.keys}>
        <tbody>
          {rows.map(([keys, what]) => (
            <tr key={what}>
              <td>
                {keys.map((key) => (
                  <Kbd key={key}>{key}</Kbd>
                ))}
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Switch
        mt="md"
        label="Single-key shortcuts"
        checked={on}
        onChange={(event) => {
          setOn(event.currentTarget.checked);
          switchShortcuts(event.currentTarget.checked);
        }}
      />
    </Modal>
  );
}

function PasswordDialog({ opened, close }: { opened: boolean; close: () => void }) {
  const [problem, setProblem] = useState("");
  const write = useWrite(
    (body: Schemas["PasswordForm"]) => ask(api.POST("/api/password", { body })),
    {
      onDone: () => {
        notifications.show({ message: "Password changed. Other devices are signed out." });
        close();
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const change = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    write.mutate({ current: String(form.get("current")), new: String(form.get("new")) });
  };
  return (
    <Modal opened={opened} onClose={close} title="Change password">
      <form onSubmit={change} className="stack">
        <PasswordInput name="current" label="Present password" required data-autofocus />
        <PasswordInput
          name="new"
          label="New password"
          description="At least 10 characters"
          required
          error={problem}
        />
        <Button type="submit">Change password</Button>
      </form>
    </Modal>
  );
}

function Person({ me }: { me: Me }) {
  const [asking, dialog] = useDisclosure();
  const client = useQueryClient();
  const navigate = useNavigate();
  const leaving = useWrite(() => ask(api.POST("/api/sign-out")), {
    onDone: () => {
      client.clear();
      localStorage.removeItem(KEPT);
      navigate("/");
      window.location.reload();
    },
  });
  return (
    <>
      <Menu position="bottom-end">
        <Menu.Target>
          <button type="button" className={styles.who}>
            {me.name}
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Label>{me.role === "coach" ? "Coach" : "Athlete"}</Menu.Label>
          <Menu.Item onClick={dialog.open}>Change password</Menu.Item>
          <Menu.Item onClick={() => leaving.mutate(undefined)}>Sign out</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <PasswordDialog opened={asking} close={dialog.close} />
    </>
  );
}

/** How much waits on this device to be sent, and how much was refused. */
function Unsent({ me }: { me: number }) {
  const waiting = useWaiting(me);
  useSending(me);
  if (waiting.length === 0) return null;
  const refused = waiting.filter((one) => one.refused);
  const words = refused.length
    ? `${waiting.length} unsent · ${refused.length} refused`
    : `${waiting.length} unsent`;
  const of = [...new Set(refused.map((one) => `${one.date}: ${one.refused?.words}`))];
  return (
    <span className={`${styles.unsent} num`} role="status" title={of.join("\n")}>
      {words}
    </span>
  );
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

export function Frame({
  me,
  gymName,
  today,
  date: day,
  step,
  place,
  title,
  children,
}: {
  me: Me;
  gymName: string;
  today: string;
  date?: string;
  step?: Step;
  place?: "week" | "movements" | "athletes" | "bests" | "me" | "gym";
  title?: string;
  children: React.ReactNode;
}) {
  const date = day ?? today;
  const navigate = useNavigate();
  const [listing, list] = useDisclosure();
  const coach = me.role === "coach";
  const keys = useMemo(() => {
    const to = (day: string, next: string = step ?? "write") =>
      navigate(coach ? `/day/${day}/${next}` : `/me/${day}`);
    return {
      ...(coach ? Object.fromEntries(STEPS.map((s) => [s.key, () => to(date, s.step)])) : {}),
      "[": () => to(shift(date, -1)),
      "]": () => to(shift(date, 1)),
      t: () => to(today),
      ...(coach
        ? {
            k: () => navigate(`/week/${date}`),
            m: () => navigate("/movements"),
            a: () => navigate("/athletes"),
          }
        : {}),
      // In Write the notation's card opens, which names this list.
      ...(step === "write" ? {} : { "?": list.open }),
    };
  }, [coach, date, list.open, navigate, step, today]);
  useShortcuts(keys);
  const address = (day: string) => (coach ? `/day/${day}/${step ?? "write"}` : `/me/${day}`);
  return (
    <>
      <header className={styles.frame}>
        <Link to="/" className={styles.brand} aria-label={`Pine Ladder, ${gymName}`}>
          <Mark />
          <span className={styles.name}>{gymName}</span>
        </Link>
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
          {!coach && (
            <Link to="/profile" aria-current={place === "me" ? "page" : undefined}>
              About me
            </Link>
          )}
        </nav>
        <nav className={styles.dayNav} aria-label="Day">
          <Link to={address(shift(date, -1))} aria-label="Day before">
            ‹
          </Link>
          <span className={styles.dayName}>
            <b>{date === today ? brief(date).replace(/^\w+/, "Today") : brief(date)}</b>
            {title && (
              <span className={styles.dayTitle} title={title}>
                {" "}
                · {title}
              </span>
            )}
          </span>
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
          <Unsent me={me.id} />
          <ActionIcon
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
      <main>{children}</main>
      <Shortcuts opened={listing} close={list.close} />
    </>
  );
}
