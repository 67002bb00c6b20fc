// Whether athletes see the day; what they would not see of it is asked about first.
import { Button } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useWrite } from "../../../api/writes";
import styles from "./Publish.module.css";

/** Athletes see a day once it is published; it can be taken back. */
export function Publish({
  date,
  published,
  version,
}: {
  date: string;
  published: boolean;
  version: number;
}) {
  const client = useQueryClient();
  const [asked, setAsked] = useState<{ words: string; lines: Schemas["UnreadLine"][] } | null>(
    null,
  );
  const change = useWrite(
    ({ shown, despite }: { shown: boolean; despite: boolean }) =>
      ask(
        api.PUT("/api/days/{date}/published", {
          params: { path: { date } },
          body: { published: shown, version, despite },
        }),
      ),
    {
      onDone: (done) => {
        setAsked(null);
        client.setQueryData(keys.text(date), done);
      },
      onRefused: (refusal) => setAsked({ words: refusal.message, lines: refusal.unread }),
      touches: () => [keys.text(date), keys.weeks, keys.myDay(date)],
    },
  );
  return (
    <span className={styles.publish}>
      <span title={published ? "Athletes see this day" : "Only coaches see this day"}>
        {published ? "Published" : "Draft"}
      </span>
      <Button
        size="compact-sm"
        variant={published ? "default" : "filled"}
        loading={change.isPending}
        onClick={() => change.mutate({ shown: !published, despite: false })}
      >
        {published ? "Unpublish" : "Publish"}
      </Button>
      {asked && (
        <div className={styles.asked} role="alertdialog" aria-label="Before it is published">
          <p>{asked.words}.</p>
          <ul>
            {asked.lines.map((one) => (
              <li key={one.line}>
                <b className="num">{one.line}</b> {one.text} <small>{one.why}</small>
              </li>
            ))}
          </ul>
          {asked.lines.length > 0 && (
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => change.mutate({ shown: true, despite: true })}
            >
              Publish without them
            </Button>
          )}
          <Button size="compact-sm" onClick={() => setAsked(null)}>
            Not yet
          </Button>
        </div>
      )}
    </span>
  );
}
