// Settings and privacy: limits and wishes, name and address, where I am signed in, what is kept
// about me, being erased.

import { Button, Checkbox, PasswordInput, Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { at } from "../../api/base";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { StrapField } from "../../training/StrapField";
import { Follows } from "../../ui/Follows";
import fieldStyles from "../../ui/fields.module.css";
import pageStyles from "../../ui/page.module.css";
import { Failed, Waiting } from "../../ui/states";
import styles from "./Account.module.css";
import { MyPages } from "./MyPages";
import { MyProfile } from "./MyProfile";

type About = Schemas["About"];

const when = (moment: string) =>
  new Date(moment).toLocaleString("en", { dateStyle: "medium", timeStyle: "short" });

function Name({ about }: { about: About }) {
  const [name, setName] = useState(about.name);
  const [problem, setProblem] = useState("");
  const [said, setSaid] = useState("");
  const keep = useWrite(() => ask(api.PUT("/api/me/name", { body: { name } })), {
    onDone: () => setSaid("Saved."),
    onRefused: (refusal) => setProblem(refusal.message),
    touches: () => [[]],
  });
  return (
    <form
      className={`${fieldStyles.known} stack`}
      aria-label="Name"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate(undefined);
      }}
    >
      <TextInput
        label="Name"
        description="As coaches, sheets and standings show it"
        value={name}
        error={problem}
        onChange={(event) => {
          setName(event.currentTarget.value);
          setProblem("");
          setSaid("");
        }}
      />
      <div className={fieldStyles.lineTools}>
        <Button type="submit" variant="default" loading={keep.isPending}>
          Save name
        </Button>
        {said && <span role="status">{said}</span>}
      </div>
    </form>
  );
}

function Address({ about }: { about: About }) {
  const [email, setEmail] = useState(about.email ?? "");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState("");
  const [said, setSaid] = useState("");
  const keep = useWrite(() => ask(api.PUT("/api/me/address", { body: { email, password } })), {
    onDone: () => {
      setSaid("Saved. Sign in with it from now on.");
      setPassword("");
    },
    onRefused: (refusal) => setProblem(refusal.message),
    touches: () => [keys.aboutMe, keys.people],
  });
  const typed = (set: (value: string) => void) => (event: { currentTarget: HTMLInputElement }) => {
    set(event.currentTarget.value);
    setProblem("");
    setSaid("");
  };
  return (
    <form
      className={`${fieldStyles.known} stack`}
      aria-label="Address"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate(undefined);
      }}
    >
      <TextInput label="E-mail" type="email" value={email} onChange={typed(setEmail)} />
      <PasswordInput
        label="Current password"
        autoComplete="current-password"
        value={password}
        error={problem}
        onChange={typed(setPassword)}
      />
      <div className={fieldStyles.lineTools}>
        <Button type="submit" variant="default" loading={keep.isPending}>
          Save address
        </Button>
        {said && <span role="status">{said}</span>}
      </div>
    </form>
  );
}

function SignIns() {
  const found = useQuery({
    queryKey: keys.signIns,
    queryFn: ({ signal }) => ask(api.GET("/api/me/sign-ins", { signal })),
  });
  const end = useWrite(
    (mark: string) => ask(api.DELETE("/api/me/sign-ins/{mark}", { params: { path: { mark } } })),
    { touches: () => [keys.signIns] },
  );
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  return (
    <section className={fieldStyles.known} aria-label="Signed in">
      <h2>Signed in</h2>
      <ul>
        {found.data?.map((one) => (
          <li key={one.mark}>
            <span>
              {one.device}
              <small> last used {when(one.used)}</small>
            </span>
            {one.this ? (
              <strong>this one</strong>
            ) : (
              <Button
                size="compact-sm"
                variant="default"
                aria-label={`Sign out: ${one.device}`}
                onClick={() => end.mutate(one.mark)}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Kept({ about }: { about: About }) {
  const wish = useWrite((wish: boolean) => ask(api.PUT("/api/me/erase-wish", { body: { wish } })), {
    touches: () => [keys.aboutMe, keys.people],
  });
  return (
    <section className={fieldStyles.known} aria-label="What is kept about me">
      <h2>What is kept about me</h2>
      <p>
        Name, address, scores and their changes, rounds noted on the floor, bests and limits,
        efforts, classes. Coaches see it; members see scores unless you are left out of them, above.
      </p>
      <div className={fieldStyles.lineTools}>
        <a href={at("/api/me/everything")} download="about-me.zip">
          Take all of it away
        </a>
        {about.erase_asked ? (
          <>
            <span role="status">You asked to be erased on {when(about.erase_asked)}.</span>
            <Button
              key="keep"
              size="compact-sm"
              variant="default"
              onClick={() => wish.mutate(false)}
            >
              Take that back
            </Button>
          </>
        ) : (
          <Button
            key="erase"
            size="compact-sm"
            variant="subtle"
            color="red"
            onClick={() => wish.mutate(true)}
          >
            Delete my account
          </Button>
        )}
      </div>
    </section>
  );
}

function Calendar() {
  const found = useQuery({
    queryKey: keys.calendar,
    queryFn: ({ signal }) => ask(api.GET("/api/me/calendar", { signal })),
  });
  const [told, setTold] = useState<Schemas["Shown"] | null>(null);
  const touches = () => [keys.calendar];
  const [all, setAll] = useState(false);
  const [alarm, setAlarm] = useState("0");
  const make = useWrite(
    (body: Schemas["CalendarForm"]) => ask(api.POST("/api/me/calendar", { body })),
    { onDone: setTold, touches },
  );
  const end = useWrite(() => ask(api.DELETE("/api/me/calendar")), {
    onDone: () => setTold(null),
    touches,
  });
  const since = found.data?.made_at;
  return (
    <section className={fieldStyles.known} aria-label="Calendar">
      <h2>Classes in my calendar</h2>
      <p>
        An address that your calendar program subscribes to: the classes you have booked, what is
        on, your kit. Whoever has it can read it; it is shown once.
      </p>
      <Checkbox
        label="All classes, not only those I have booked"
        checked={all}
        onChange={(event) => setAll(event.currentTarget.checked)}
      />
      <Select
        label="Reminder before my classes"
        allowDeselect={false}
        value={alarm}
        data={[
          { value: "0", label: "none" },
          { value: "30", label: "30 minutes" },
          { value: "60", label: "1 hour" },
          { value: "120", label: "2 hours" },
        ]}
        onChange={(value) => setAlarm(value ?? "0")}
      />
      {told && (
        <>
          <TextInput
            label="Calendar address"
            readOnly
            value={told.address}
            onFocus={(event) => event.currentTarget.select()}
          />
          <img
            className={styles.qr}
            src={told.qr}
            alt="The calendar address, for a phone to read"
          />
        </>
      )}
      <div className={fieldStyles.lineTools}>
        <Button
          size="compact-sm"
          variant="default"
          loading={make.isPending}
          onClick={() => make.mutate({ all, alarm: Number(alarm) })}
        >
          {since ? "A new address" : "Make an address"}
        </Button>
        {since && (
          <Button size="compact-sm" variant="subtle" onClick={() => end.mutate(undefined)}>
            Withdraw it
          </Button>
        )}
        {since && !told && <span>In use since {when(since)}.</span>}
      </div>
    </section>
  );
}

/** The programmes whose days stand on my phone and in my calendar. */
function Lines({ me, lines }: { me: Schemas["Me"]; lines: Schemas["GymOut"]["programmes"] }) {
  const [ticked, setTicked] = useState(me.programmes);
  const follow = useWrite(
    (programmes: number[]) => ask(api.PUT("/api/me/programmes", { body: { programmes } })),
    { onRefused: () => setTicked(me.programmes), touches: () => [keys.me] },
  );
  return (
    <section className={fieldStyles.known} aria-label="Programmes">
      <h2>Programmes I follow</h2>
      <Follows
        label="Programmes I follow"
        lines={lines}
        value={ticked}
        onChange={(ids) => {
          // Everybody follows something: the last tick stays.
          if (ids.length === 0) return;
          setTicked(ids);
          follow.mutate(ids);
        }}
      />
    </section>
  );
}

const LETTERS: Record<string, string> = {
  week: "What the next days hold, with my kit",
  class: "A class I signed up for changes",
  question: "A coach asks about a score of mine",
  told: "A coach's word to my class",
};

/** Which letters I get; links to sign in come whatever is ticked. */
function Letters() {
  const found = useQuery({
    queryKey: keys.myMail,
    queryFn: ({ signal }) => ask(api.GET("/api/me/mail", { signal })),
  });
  const [ticked, setTicked] = useState<string[] | null>(null);
  const choose = useWrite(
    (wanted: Schemas["MyMailForm"]["wanted"]) => ask(api.PUT("/api/me/mail", { body: { wanted } })),
    { onRefused: () => setTicked(null), touches: () => [keys.myMail] },
  );
  if (!found.data?.on) return null;
  const { wanted } = found.data;
  return (
    <section className={fieldStyles.known} aria-label="Letters">
      <h2>Letters I get by mail</h2>
      <Checkbox.Group
        aria-label="Letters I get by mail"
        value={ticked ?? Object.keys(wanted).filter((kind) => wanted[kind])}
        onChange={(kinds) => {
          setTicked(kinds);
          choose.mutate(kinds as Schemas["MyMailForm"]["wanted"]);
        }}
      >
        <div className="stack">
          {Object.keys(wanted).map((kind) => (
            <Checkbox key={kind} value={kind} label={LETTERS[kind] ?? kind} />
          ))}
        </div>
      </Checkbox.Group>
    </section>
  );
}

export function Account({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const about = useQuery({
    queryKey: keys.aboutMe,
    queryFn: ({ signal }) => ask(api.GET("/api/me/about", { signal })),
  });
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="account">
      <article className={pageStyles.athlete}>
        <h1>Settings and privacy</h1>
        {me.trains && <MyPages at="/account" />}
        {me.trains && <MyProfile only="settings" />}
        {about.error && <Failed error={about.error} retry={() => about.refetch()} />}
        {about.isPending && <Waiting />}
        {about.data && (
          <div className={styles.account}>
            <Name about={about.data} />
            <Address about={about.data} />
            <SignIns />
            {me.trains && gym.programmes.length > 1 && <Lines me={me} lines={gym.programmes} />}
            {me.trains && <Letters />}
            {me.trains && <StrapField athlete={null} />}
            {me.trains && <Calendar />}
            <Kept about={about.data} />
          </div>
        )}
      </article>
    </Frame>
  );
}
