// The gym's mail: whether it goes out, the weekly word, and what became of each letter.
import { Button, NativeSelect } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useWrite } from "../../api/writes";
import { brief, clockTime, WEEKDAYS } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";
import { Failed } from "../../ui/states";
import styles from "./Mail.module.css";

type Letter = Schemas["LetterOut"];

const STATES: Record<string, string> = {
  waiting: "waits",
  going: "going now",
  sent: "sent",
  unsure: "perhaps sent",
  refused: "not sent",
};

const when = (moment: string) => `${brief(moment.slice(0, 10))}, ${clockTime(moment)}`;

function Row({ one, onDone }: { one: Letter; onDone: (mail: Schemas["MailOut"]) => void }) {
  const path = { letter_id: one.id };
  const again = useWrite(() => ask(api.POST("/api/mail/{letter_id}/again", { params: { path } })), {
    onDone,
  });
  return (
    <tr data-state={one.state}>
      <td>{when(one.made_at)}</td>
      <td>{one.to}</td>
      <td>{one.subject}</td>
      <td>
        {STATES[one.state]}
        {one.trouble && <small> {one.trouble}</small>}
      </td>
      <td>
        {(one.state === "unsure" || one.state === "refused") && (
          <Button
            size="compact-sm"
            variant="default"
            aria-label={`Send again to ${one.to}`}
            onClick={() => again.mutate(undefined)}
          >
            Send again
          </Button>
        )}
      </td>
    </tr>
  );
}

export function Mail() {
  const client = useQueryClient();
  const found = useQuery({
    queryKey: keys.mail,
    queryFn: ({ signal }) => ask(api.GET("/api/mail", { signal })),
  });
  const onDone = (mail: Schemas["MailOut"]) => client.setQueryData(keys.mail, mail);
  const weekly = useWrite(
    (weekday: number | null) => ask(api.PUT("/api/mail/weekly", { body: { weekday } })),
    { onDone },
  );
  const mail = found.data;
  return (
    <section className={`${fieldStyles.known} ${styles.mail}`} aria-label="Mail">
      <h2>Mail</h2>
      {found.error && <Failed error={found.error} retry={() => found.refetch()} />}
      {mail && !mail.on && (
        <p>
          No mail server is set, so nothing goes out: invitations are handed over as links, words to
          a class stand on phones alone. How to set one stands in docs/running-a-gym.md.
        </p>
      )}
      {mail?.on && (
        <>
          <NativeSelect
            label="What the next days hold, to every member"
            description="From 17:00; published days, with the kit of their own version"
            value={mail.weekly === null ? "" : String(mail.weekly)}
            data={[
              { value: "", label: "not by itself" },
              ...WEEKDAYS.map((label, value) => ({
                label: `every ${label}`,
                value: String(value),
              })),
            ]}
            onChange={(event) => {
              const day = event.currentTarget.value;
              weekly.mutate(day === "" ? null : Number(day));
            }}
          />
          <p>
            {mail.waiting} waiting, {mail.sent} sent, {mail.troubled} not sent or unsure.
          </p>
        </>
      )}
      {mail && mail.letters.length > 0 && (
        <details>
          <summary>The newest letters</summary>
          <div className={styles.scroll}>
            <table>
              <thead>
                <tr>
                  <th scope="col">Queued</th>
                  <th scope="col">To</th>
                  <th scope="col">About</th>
                  <th scope="col">State</th>
                  <td />
                </tr>
              </thead>
              <tbody>
                {mail.letters.map((one) => (
                  <Row key={one.id} one={one} onDone={onDone} />
                ))}
              </tbody>
            </table>
          </div>
        </details>
      )}
    </section>
  );
}
