// Everybody without an account at once: by mail, or as a sheet of codes to print and hand out.
import { Button, Checkbox, Modal } from "@mantine/core";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import styles from "./InviteAll.module.css";

type Person = Schemas["PersonOut"];
type Made = Schemas["InvitationOut"];

const day = (at: string) =>
  new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "long" });

/** The links as a page: cut apart, each is handed to the one it names. */
function Sheet({ made, gymName }: { made: readonly Made[]; gymName: string }) {
  return (
    <ul className={styles.sheet} aria-label="Invitations">
      {made.map((one) => (
        <li key={one.person_id}>
          <img src={one.shown.qr} alt={`The link for ${one.name}`} />
          <p>
            <b>{one.name}</b>
            <br />
            {gymName}: choose a password with this code or address, once, until{" "}
            {day(one.expires_at)}. You sign in as {one.email}.
            <br />
            <small>{one.shown.address}</small>
          </p>
        </li>
      ))}
    </ul>
  );
}

export function InviteAll({ people, gymName }: { people: readonly Person[]; gymName: string }) {
  const ready = people.filter((one) => one.active && one.email && !one.signs_in);
  const [open, setOpen] = useState(false);
  const [left, setLeft] = useState<readonly number[]>([]);
  const [problem, setProblem] = useState("");
  const [made, setMade] = useState<{ links: readonly Made[]; mail: boolean } | null>(null);
  const chosen = ready.filter((one) => !left.includes(one.id));
  const invite = useWrite(
    (mail: boolean) =>
      ask(
        api.POST("/api/people/invitations", {
          body: { people: chosen.map((one) => one.id), mail },
        }),
      ),
    {
      onDone: (links, mail) => setMade({ links, mail }),
      onRefused: (refusal) => setProblem(refusal.message),
      touches: () => [keys.people],
    },
  );
  if (ready.length === 0 && !made) return null;
  const close = () => {
    setOpen(false);
    setMade(null);
    setLeft([]);
    setProblem("");
  };
  const mailed = made?.links.filter((one) => one.mailed) ?? [];
  const trouble = made?.links.find((one) => one.trouble)?.trouble;
  return (
    <>
      <Button variant="default" onClick={() => setOpen(true)}>
        Invite everybody without an account: {ready.length}
      </Button>
      <Modal opened={open} onClose={close} size="xl" title="Invite">
        {made === null ? (
          <div className="stack">
            <ul className={styles.choice}>
              {ready.map((one) => (
                <li key={one.id}>
                  <Checkbox
                    label={`${one.name}, ${one.email}`}
                    checked={!left.includes(one.id)}
                    onChange={(event) =>
                      setLeft(
                        event.currentTarget.checked
                          ? left.filter((id) => id !== one.id)
                          : [...left, one.id],
                      )
                    }
                  />
                </li>
              ))}
            </ul>
            <p>Links that were made before and not used are over then.</p>
            {problem && <p role="alert">{problem}</p>}
            <div className={styles.acts}>
              <Button
                disabled={chosen.length === 0}
                loading={invite.isPending}
                onClick={() => invite.mutate(true)}
              >
                Email {chosen.length}
              </Button>
              <Button
                variant="default"
                disabled={chosen.length === 0}
                loading={invite.isPending}
                onClick={() => invite.mutate(false)}
              >
                Make a sheet to print
              </Button>
            </div>
          </div>
        ) : (
          <div className="stack">
            {made.mail && (
              <p role="status">
                {mailed.length === made.links.length
                  ? `${mailed.length} letters are on their way.`
                  : trouble || "The gym has no mail server: print the sheet and hand it out."}
              </p>
            )}
            {mailed.length < made.links.length && (
              <>
                <div className={styles.acts}>
                  <Button onClick={() => window.print()}>Print</Button>
                </div>
                <Sheet made={made.links} gymName={gymName} />
              </>
            )}
          </div>
        )}
      </Modal>
    </>
  );
}
