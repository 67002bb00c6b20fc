// The movement library: search first, a movement's page beside it.
import { Button, Select, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { movement, movements } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { ShownMovement } from "../../training/MovementDetail";
import { MovementForm } from "../../training/MovementForm";
import { RungLadder } from "../../training/RungLadder";
import { useConfirm } from "../../ui/Confirm";
import { spoken } from "../../ui/dates";
import libraryStyles from "../../ui/library.module.css";
import { Empty, Failed, Waiting } from "../../ui/states";
import wordStyles from "../../ui/words.module.css";
import styles from "./Movements.module.css";

type Pattern = Schemas["Pattern"];

function List({ words }: { words: readonly string[] }) {
  return (
    <ul>
      {words.map((word) => (
        <li key={word}>{word}</li>
      ))}
    </ul>
  );
}

function Page({ name, coach }: { name: string; coach: boolean }) {
  const found = useQuery(movement(name));
  const client = useQueryClient();
  const go = useNavigate();
  const [editing, setEditing] = useState(false);
  const drop = useWrite(
    (it: Schemas["MovementPage"]) =>
      ask(api.DELETE("/api/movements/{name}", { params: { path: { name: it.movement.name } } })),
    {
      onDone: async (_gone, it) => {
        if (!it.shipped) await go("/movements");
        client.invalidateQueries();
      },
    },
  );
  const [question, confirm] = useConfirm();
  if (found.error) return <Failed error={found.error} />;
  if (!found.data) return <Waiting />;
  const { movement: it, ladder, swaps, used, own, shipped, drawn } = found.data;
  const forget = () =>
    confirm({
      title: `Remove ${found.data.movement.name}?`,
      text: found.data.shipped
        ? "The gym's version goes; the movement is then as it ships."
        : "Boards that name it keep its name, without its pace, ladder and cues.",
      verb: "Remove",
      act: () => drop.mutate(found.data),
    });
  const measure = { reps: "a rep", distance: "a metre", time: "" }[it.measure];
  return (
    <article className={styles.move}>
      {question}
      <header>
        <h1>{it.name}</h1>
        <p>
          {it.patterns.join(", ")} · {it.muscles}
          {it.aliases.length > 0 && <> · also {it.aliases.join(", ")}</>}
        </p>
        {coach && (
          <p className={styles.tools}>
            <Button size="compact-sm" variant="default" onClick={() => setEditing(true)}>
              {own ? "Change" : "Make it the gym's own"}
            </Button>
            {own && (
              <Button size="compact-sm" variant="default" onClick={forget}>
                {shipped ? "Back to the library's" : "Remove"}
              </Button>
            )}
            {own && <span>the gym's own</span>}
          </p>
        )}
        {editing && (
          <MovementForm
            initial={it}
            fixedName
            onDone={() => setEditing(false)}
            onClose={() => setEditing(false)}
          />
        )}
      </header>
      <div className={styles.body}>
        <div>
          {drawn && <ShownMovement name={it.name} ladder={ladder} />}
          <p className={styles.standard}>{it.standard}</p>
          {it.cautions.length > 0 && (
            <ul className={wordStyles.cautions} aria-label="Cautions">
              {it.cautions.map((caution) => (
                <li key={caution}>{caution}</li>
              ))}
            </ul>
          )}
          <h2>Say</h2>
          <List words={it.cues} />
          <h2>Search</h2>
          <List words={it.faults} />
          <dl>
            <dt>Kit</dt>
            <dd>{it.kit.length ? it.kit.join(", ") : "none"}</dd>
            <dt>Sides</dt>
            <dd>{it.sides === "both" ? "both at once" : "one after the other"}</dd>
            {measure && (
              <>
                <dt>Pace</dt>
                <dd className="num">
                  {it.seconds} s {measure} when fresh; {it.floor_s} s is the fastest honest one
                  {it.reference_kg ? ` (at ${it.reference_kg} kg)` : ""}
                </dd>
              </>
            )}
            {it.parent && (
              <>
                <dt>Percent of</dt>
                <dd>{it.parent}</dd>
              </>
            )}
            <dt>Used</dt>
            <dd>
              {used.length === 0 && "not in the last half year"}
              {used.length > 0 && (
                <>
                  {used.length} {used.length === 1 ? "day" : "days"} in the last half year, last{" "}
                  {coach ? (
                    <Link to={`/day/${used.at(-1)}/write`}>{spoken(used.at(-1) ?? "")}</Link>
                  ) : (
                    spoken(used.at(-1) ?? "")
                  )}
                </>
              )}
            </dd>
          </dl>
          {swaps.length > 0 && (
            <>
              <h2>Instead</h2>
              <table className={styles.swaps}>
                <tbody>
                  {swaps.map((swap) => (
                    <tr key={`${swap.because}${swap.instead}`}>
                      <td>{swap.because}</td>
                      <td>
                        <Link to={`/movements/${encodeURIComponent(swap.instead)}`}>
                          {swap.instead}
                        </Link>
                        {swap.note && <small> {swap.note}</small>}
                      </td>
                      <td className="num">
                        {swap.schools.length > 0
                          ? swap.schools.map((s) => `${s.ratio} : 1 (${s.name})`).join(" or ")
                          : `${swap.ratio} : 1`}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </>
          )}
        </div>
        {ladder && <RungLadder ladder={ladder} at={it.name} />}
      </div>
    </article>
  );
}

export function Movements({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const { name } = useParams();
  const [asked, setAsked] = useSearchParams();
  const go = useNavigate();
  const adding = asked.get("new");
  const [typed, setTyped] = useState("");
  const [q] = useDebouncedValue(typed, 150);
  const [pattern, setPattern] = useState<Pattern | null>(null);
  const [kit, setKit] = useState<string | null>(null);
  const list = useQuery(movements({ q, pattern, kit }));
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="movements">
      <div className={libraryStyles.library}>
        <section className={libraryStyles.list} aria-label="Find a movement">
          {me.role === "coach" && (
            <Button size="compact-sm" variant="default" onClick={() => setAsked({ new: "" })}>
              Add a movement
            </Button>
          )}
          {adding !== null && (
            <MovementForm
              initial={{ name: adding }}
              onClose={() => setAsked({})}
              onDone={(made) => go(`/movements/${encodeURIComponent(made)}`)}
            />
          )}
          <TextInput
            aria-label="Search movements"
            placeholder="Search"
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          <div className={libraryStyles.filter}>
            <Select
              aria-label="Pattern"
              placeholder="Any pattern"
              clearable
              value={pattern}
              onChange={(value) => setPattern(value as Pattern | null)}
              data={list.data?.patterns ?? []}
            />
            <Select
              aria-label="Kit"
              placeholder="Any kit"
              clearable
              searchable
              value={kit}
              onChange={setKit}
              data={[{ value: "none", label: "no kit" }, ...(list.data?.kit ?? [])]}
            />
          </div>
          {list.error && <Failed error={list.error} retry={() => list.refetch()} />}
          {list.data && list.data.found.length === 0 && (
            <Empty>
              <p>No movement fits. Clear a filter or try fewer letters.</p>
            </Empty>
          )}
          <ul>
            {list.data?.found.map((line) => (
              <li key={line.name}>
                <Link
                  to={`/movements/${encodeURIComponent(line.name)}`}
                  aria-current={line.name === name ? "page" : undefined}
                >
                  {line.name} <small>{line.patterns[0]}</small>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        {name ? (
          <Page key={name} name={name} coach={me.role === "coach"} />
        ) : (
          <Empty>
            <h1>Movements</h1>
            <p>Choose a movement to see its ladder, standard, cautions and swaps.</p>
          </Empty>
        )}
      </div>
    </Frame>
  );
}
