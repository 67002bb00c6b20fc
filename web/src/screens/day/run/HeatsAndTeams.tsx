// Heats by the kit there is and partners by predicted pace; a press on two names swaps them.
import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { lanes as lanesQuery } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import wordStyles from "../../../ui/words.module.css";
import styles from "./HeatsAndTeams.module.css";

type Group = { id: number; name: string }[];
type What = "heats" | "teams";

export function HeatsAndTeams({
  date,
  classId,
  pieceKey,
  waves,
  running,
  onWaves,
}: {
  date: string;
  classId: number;
  pieceKey: string;
  waves: number;
  /** The clock has begun: it is not reset unasked. */
  running: boolean;
  onWaves: (waves: number) => void;
}) {
  const [pairing, setPairing] = useState<"even teams" | "like with like">("even teams");
  const found = useQuery(lanesQuery(date, classId, pieceKey, pairing));
  const [picked, setPicked] = useState<{ what: What; id: number } | null>(null);
  const [problem, setProblem] = useState("");
  const write = useWrite(
    (body: Schemas["LanesForm"]) =>
      ask(
        api.PUT("/api/classes/{class_id}/lanes/{key}", {
          params: { path: { class_id: classId, key: pieceKey } },
          body,
        }),
      ),
    {
      onDone: () => setProblem(""),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.lanes(date)],
    },
  );
  const [sure, setSure] = useState(false);
  if (!found.data) return null;
  const { heats, teams, reasons } = found.data;
  const keep = (what: What, groups: number[][]) =>
    write.mutate({
      what,
      groups,
      version: what === "heats" ? found.data.heats_version : found.data.teams_version,
    });
  const choose = (what: What, groups: Group[], id: number) => {
    if (picked?.what !== what || picked.id === id) {
      setPicked(picked?.id === id ? null : { what, id });
      return;
    }
    const other = (one: number) => (one === id ? picked.id : one === picked.id ? id : one);
    setPicked(null);
    keep(
      what,
      groups.map((group) => group.map((one) => other(one.id))),
    );
  };
  const list = (what: What, groups: Group[]) => (
    <ol className={styles.groups}>
      {groups.map((group, at) => (
        <li key={group.map((one) => one.id).join()}>
          <b className="num">{at + 1}</b>
          {group.map((one) => (
            <button
              key={one.id}
              type="button"
              aria-pressed={picked?.what === what && picked.id === one.id}
              onClick={() => choose(what, groups, one.id)}
            >
              {one.name}
            </button>
          ))}
        </li>
      ))}
    </ol>
  );
  if (heats.length < 2 && teams.length === 0) return null;
  return (
    <section className="lanes">
      {heats.length > 1 && (
        <>
          <h2>
            Heats{" "}
            {found.data.heats_by_hand && (
              <button type="button" className={styles.quiet} onClick={() => keep("heats", [])}>
                propose again
              </button>
            )}
          </h2>
          {reasons.map((reason) => (
            <p key={reason} className={wordStyles.why}>
              {reason}
            </p>
          ))}
          {list(
            "heats",
            heats.map((heat) => heat.lanes),
          )}
          {waves !== heats.length && (
            <Button
              variant="default"
              size="xs"
              onClick={() => {
                if (running && !sure) return setSure(true);
                setSure(false);
                onWaves(heats.length);
              }}
            >
              {running && sure
                ? `The clock runs: start it anew with ${heats.length} heats?`
                : `Put ${heats.length} heats on the clock`}
            </Button>
          )}
        </>
      )}
      {teams.length > 0 && (
        <>
          <h2>
            Partners{" "}
            {found.data.teams_by_hand && (
              <button type="button" className={styles.quiet} onClick={() => keep("teams", [])}>
                propose again
              </button>
            )}
          </h2>
          {!found.data.teams_by_hand && (
            <p className={wordStyles.why}>
              By predicted pace: {pairing}.{" "}
              <button
                type="button"
                className={styles.quiet}
                onClick={() =>
                  setPairing(pairing === "even teams" ? "like with like" : "even teams")
                }
              >
                {pairing === "even teams" ? "like with like" : "even teams"} instead
              </button>
            </p>
          )}
          {list("teams", teams)}
          {!found.data.teams_by_hand && (
            <Button
              variant="default"
              size="xs"
              onClick={() =>
                keep(
                  "teams",
                  teams.map((team) => team.map((one) => one.id)),
                )
              }
            >
              Save these teams: one score each
            </Button>
          )}
        </>
      )}
      {problem && <p role="alert">{problem}</p>}
    </section>
  );
}
