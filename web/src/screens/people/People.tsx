// The people of the gym: added, renamed, invited, let go.
import { Button, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { Follows } from "../../ui/Follows";
import fieldStyles from "../../ui/fields.module.css";
import pageStyles from "../../ui/page.module.css";
import { Failed, Waiting } from "../../ui/states";
import { ImportPeople } from "./ImportPeople";
import { InviteAll } from "./InviteAll";
import styles from "./People.module.css";

type Person = Schemas["PersonOut"];
type Change = Schemas["PersonChange"];
type Gym = Schemas["GymOut"];

const TOUCHES = () => [keys.people, keys.athletes, keys.days];
const KINDS = [
  { value: "athlete", label: "athlete" },
  { value: "coach", label: "coach" },
  { value: "both", label: "coach, trains too" },
];
const kindOf = (person: Person) =>
  person.role === "athlete" ? "athlete" : person.trains ? "both" : "coach";
const choices = (names: readonly string[]) =>
  names.map((label, value) => ({ label, value: String(value) }));

/** A row to add somebody; what was typed stays where it was refused. */
function Add({ gym }: { gym: Gym }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [is, setIs] = useState("athlete");
  const [tier, setTier] = useState("0");
  const [track, setTrack] = useState("0");
  const [problem, setProblem] = useState("");
  const [kept, setKept] = useState("");
  const add = useWrite((body: Schemas["NewPerson"]) => ask(api.POST("/api/people", { body })), {
    onDone: (person) => {
      setKept(`${person.name} was added.`);
      setIs("athlete");
      setName("");
      setEmail("");
    },
    onRefused: (refusal) => setProblem(refusal.message),
    touches: TOUCHES,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setProblem("");
    setKept("");
    add.mutate({
      name,
      email,
      role: is === "athlete" ? "athlete" : "coach",
      trains: is !== "coach",
      tier: Number(tier),
      track: Number(track),
    });
  };
  return (
    <form onSubmit={submit} className={styles.add} aria-label="Add somebody">
      <TextInput
        label="Name"
        value={name}
        onChange={(event) => setName(event.currentTarget.value)}
        required
      />
      <TextInput
        label="E-mail"
        type="email"
        description="To be invited with; may come later"
        inputWrapperOrder={["label", "input", "description", "error"]}
        value={email}
        onChange={(event) => setEmail(event.currentTarget.value)}
      />
      <NativeSelect
        label="Is"
        value={is}
        data={KINDS}
        onChange={(event) => setIs(event.currentTarget.value)}
      />
      <NativeSelect
        label="Tier"
        value={tier}
        data={choices(gym.tiers)}
        onChange={(event) => setTier(event.currentTarget.value)}
      />
      <NativeSelect
        label="Track"
        value={track}
        data={choices(gym.tracks)}
        onChange={(event) => setTrack(event.currentTarget.value)}
      />
      <Button type="submit" loading={add.isPending}>
        Add
      </Button>
      {problem && <p role="alert">{problem}</p>}
      {kept && <p role="status">{kept}</p>}
    </form>
  );
}

/** A one-time link, to be handed over however the gym talks. */
function Invitation({ person }: { person: Person }) {
  const [told, setTold] = useState<{
    address: string;
    qr: string;
    until: string;
    mailed: boolean;
    trouble: string;
  } | null>(null);
  const [problem, setProblem] = useState("");
  const make = useWrite(
    () =>
      ask(api.POST("/api/people/{person_id}/link", { params: { path: { person_id: person.id } } })),
    {
      onDone: (link) =>
        setTold({
          ...link.shown,
          mailed: link.mailed,
          trouble: link.trouble,
          until: new Date(link.expires_at).toLocaleDateString("en", {
            day: "numeric",
            month: "long",
          }),
        }),
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const what = person.signs_in ? "New password" : "Invite";
  return (
    <>
      <Button
        size="compact-sm"
        variant="default"
        aria-label={`${what}: ${person.name}`}
        loading={make.isPending}
        onClick={() => {
          setProblem("");
          make.mutate();
        }}
      >
        {what}
      </Button>
      {told && (
        <div className={styles.link}>
          <TextInput
            label={`Link for ${person.name}, once, until ${told.until}`}
            readOnly
            value={told.address}
            onFocus={(event) => event.currentTarget.select()}
          />
          {told.mailed && <p role="status">Also on its way to {person.email}.</p>}
          {told.trouble && <p role="status">{told.trouble}</p>}
          <img src={told.qr} alt={`The link for ${person.name}, to be read by their phone`} />
        </div>
      )}
      {problem && <p role="alert">{problem}</p>}
    </>
  );
}

const some = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;

/** Forgetting somebody for good: what goes is said first, and their name is written to be sure. */
function Erase({ person }: { person: Person }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState("");
  const path = { person_id: person.id };
  const going = useQuery({
    queryKey: [...keys.people, person.id, "erasing"],
    queryFn: ({ signal }) =>
      ask(api.GET("/api/people/{person_id}/erasing", { params: { path }, signal })),
    enabled: open,
  });
  const erase = useWrite(
    () => ask(api.POST("/api/people/{person_id}/erase", { params: { path }, body: { name } })),
    { onRefused: (refusal) => setProblem(refusal.message), touches: TOUCHES },
  );
  const goes = going.data;
  return (
    <>
      <Button
        size="compact-sm"
        variant="subtle"
        color="red"
        aria-label={`Erase: ${person.name}`}
        onClick={() => setOpen(!open)}
      >
        Erase
      </Button>
      {open && goes && (
        <form
          className={styles.leaving}
          onSubmit={(event) => {
            event.preventDefault();
            erase.mutate(undefined);
          }}
        >
          <p>
            Goes for good: {some(goes.scores, "score")}, {some(goes.classes, "visit")},{" "}
            {some(goes.rounds, "noted round")}, {some(goes.efforts, "note")} of effort
            {goes.profile ? ", bests and limits" : ""}. Backups made before still hold them.
          </p>
          <TextInput
            size="xs"
            label={`Write ${person.name} to be sure`}
            value={name}
            error={problem}
            onChange={(event) => {
              setName(event.currentTarget.value);
              setProblem("");
            }}
          />
          <Button type="submit" size="compact-sm" color="red" loading={erase.isPending}>
            Delete permanently
          </Button>
        </form>
      )}
    </>
  );
}

function Row({ person, gym }: { person: Person; gym: Gym }) {
  const [editing, setEditing] = useState(false);
  const [name, setName] = useState(person.name);
  const [email, setEmail] = useState(person.email ?? "");
  const [problem, setProblem] = useState("");
  const [is, setIs] = useState(kindOf(person));
  const [tier, setTier] = useState(String(person.tier));
  const [track, setTrack] = useState(String(person.track));
  const [programmes, setProgrammes] = useState(person.programmes);
  const [leaving, setLeaving] = useState(false);
  const change = useWrite(
    (body: Change) =>
      ask(
        api.PATCH("/api/people/{person_id}", { params: { path: { person_id: person.id } }, body }),
      ),
    {
      onDone: () => {
        setEditing(false);
        setLeaving(false);
        setProblem("");
      },
      onRefused: (refusal) => setProblem(refusal.message),
      touches: TOUCHES,
    },
  );
  const keep = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({
      name,
      email,
      role: is === "athlete" ? "athlete" : "coach",
      trains: is !== "coach",
      tier: Number(tier),
      track: Number(track),
      ...(gym.programmes.length > 1 ? { programmes } : {}),
    });
  };
  // That somebody follows the first alone is said of nobody.
  const follows = gym.programmes.filter((one) => person.programmes.includes(one.id));
  const others =
    follows.length === 1 && follows[0] === gym.programmes[0] ? [] : follows.map((one) => one.name);
  return (
    <tr data-away={!person.active || undefined}>
      <th scope="row">
        {editing ? (
          <form onSubmit={keep} id={`person-${person.id}`} className="stack">
            <TextInput
              aria-label={`Name of ${person.name}`}
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
            />
          </form>
        ) : (
          person.name
        )}
      </th>
      <td>
        {editing ? (
          <TextInput
            aria-label={`E-mail of ${person.name}`}
            form={`person-${person.id}`}
            value={email}
            onChange={(event) => setEmail(event.currentTarget.value)}
          />
        ) : (
          (person.email ?? <span className={styles.none}>no address</span>)
        )}
        {problem && <p role="alert">{problem}</p>}
      </td>
      <td>
        {editing ? (
          <div className="stack">
            <NativeSelect
              aria-label={`What ${person.name} is`}
              form={`person-${person.id}`}
              size="xs"
              value={is}
              data={KINDS}
              onChange={(event) => setIs(event.currentTarget.value)}
            />
          </div>
        ) : (
          KINDS.find((one) => one.value === kindOf(person))?.label
        )}
      </td>
      <td>
        {editing && is !== "coach" ? (
          <div className="stack">
            <NativeSelect
              aria-label={`Tier of ${person.name}`}
              form={`person-${person.id}`}
              size="xs"
              value={tier}
              data={choices(gym.tiers)}
              onChange={(event) => setTier(event.currentTarget.value)}
            />
            <NativeSelect
              aria-label={`Track of ${person.name}`}
              form={`person-${person.id}`}
              size="xs"
              value={track}
              data={choices(gym.tracks)}
              onChange={(event) => setTrack(event.currentTarget.value)}
            />
            {gym.programmes.length > 1 && (
              <Follows
                label={`Programmes of ${person.name}`}
                lines={gym.programmes}
                value={programmes}
                onChange={setProgrammes}
              />
            )}
          </div>
        ) : (
          person.trains && (
            <>
              {gym.tiers[person.tier]} <small>{gym.tracks[person.track]?.toLowerCase()}</small>
              {others.length > 0 && <small className={styles.lines}>{others.join(", ")}</small>}
            </>
          )
        )}
      </td>
      <td>{person.active ? (person.signs_in ? "signs in" : "not yet") : "has left"}</td>
      <td>
        <div className={fieldStyles.lineTools}>
          {editing ? (
            <>
              <Button key="keep" type="submit" form={`person-${person.id}`} size="compact-sm">
                Save
              </Button>
              <Button size="compact-sm" variant="default" onClick={() => setEditing(false)}>
                Leave it
              </Button>
            </>
          ) : person.active ? (
            <>
              {/* Of its own key: the press that shows Save must not be a press on Save. */}
              <Button
                key="change"
                size="compact-sm"
                variant="default"
                aria-label={`Change ${person.name}`}
                onClick={() => {
                  setName(person.name);
                  setEmail(person.email ?? "");
                  setIs(kindOf(person));
                  setTier(String(person.tier));
                  setTrack(String(person.track));
                  setProblem("");
                  setEditing(true);
                }}
              >
                Change
              </Button>
              {person.email && <Invitation person={person} />}
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Deactivate: ${person.name}`}
                onClick={() => setLeaving(!leaving)}
              >
                Deactivate
              </Button>
            </>
          ) : (
            <Button
              size="compact-sm"
              variant="default"
              aria-label={`Bring back: ${person.name}`}
              onClick={() => change.mutate({ active: true })}
            >
              Bring back
            </Button>
          )}
          {!editing && (person.erase_asked || !person.active) && <Erase person={person} />}
        </div>
        {leaving && person.active && (
          <div className={styles.leaving}>
            <p>
              {person.name} is signed out and leaves sheets and lists; the address is free again.
              Scores and history stay.
            </p>
            <Button
              size="compact-sm"
              color="red"
              aria-label={`Yes, let go: ${person.name}`}
              onClick={() => change.mutate({ active: false })}
            >
              Yes, let go
            </Button>
          </div>
        )}
      </td>
    </tr>
  );
}

export function People({ me, gym }: { me: Schemas["Me"]; gym: Gym }) {
  const list = useQuery({
    queryKey: keys.people,
    queryFn: ({ signal }) => ask(api.GET("/api/people", { signal })),
  });
  const [typed, setTyped] = useState("");
  const asked = list.data?.filter((one) => one.erase_asked) ?? [];
  const fits = (person: Person) =>
    `${person.name} ${person.email ?? ""}`.toLowerCase().includes(typed.toLowerCase());
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="gym">
      <article className={pageStyles.athlete}>
        <h1>People</h1>
        <Add gym={gym} />
        <ImportPeople gym={gym} />
        {list.error && <Failed error={list.error} retry={() => list.refetch()} />}
        {list.isPending && <Waiting />}
        {list.data && (
          <>
            {asked.length > 0 && (
              <p role="status">
                {asked.map((one) => one.name).join(", ")} {asked.length === 1 ? "asks" : "ask"} to
                be erased.
              </p>
            )}
            <InviteAll people={list.data} gymName={gym.name} />
            <TextInput
              className={styles.find}
              label="Find"
              placeholder="Name or address"
              value={typed}
              onChange={(event) => setTyped(event.currentTarget.value)}
            />
            <div className={styles.wide}>
              <table className={styles.people}>
                <thead>
                  <tr>
                    <th>Name</th>
                    <th>E-mail</th>
                    <th>Is</th>
                    <th>Tier</th>
                    <th>Account</th>
                    <th>
                      <span className={styles.hidden}>What to do</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {list.data.filter(fits).map((person) => (
                    <Row key={person.id} person={person} gym={gym} />
                  ))}
                </tbody>
              </table>
            </div>
          </>
        )}
      </article>
    </Frame>
  );
}
