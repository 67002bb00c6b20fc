// The gym to take away: its tables as CSV, and a backup of everything in one file.

import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { at } from "../../api/base";
import { api, ask } from "../../api/client";
import { keys } from "../../api/keys";
import { settings } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { spoken } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";
import styles from "./Exports.module.css";

const TABLES = ["people", "scores", "bests", "classes", "kit"];

async function backUp(): Promise<string> {
  const made = api.POST("/api/backup", { parseAs: "blob" });
  const file = (await ask(made)) as unknown as Blob;
  const told = (await made).response.headers.get("content-disposition") ?? "";
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = /filename="([^"]+)"/.exec(told)?.[1] ?? "gym.backup";
  link.click();
  URL.revokeObjectURL(link.href);
  return link.download;
}

const inMegabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

/** Which nights there is a backup of, on a server that has a folder for them. */
function Nights() {
  const { data: nights } = useQuery({
    queryKey: keys.backups,
    queryFn: ({ signal }) => ask(api.GET("/api/backups", { signal })),
  });
  const kept = useQuery(settings).data?.settings.nights_kept;
  if (!nights?.folder || kept === undefined) return null;
  const [last] = nights.made;
  if (!kept && !last) return <p>No backup is made at night: say above how many are to be kept.</p>;
  return (
    <div className="stack">
      {nights.late && (
        <p role="alert">
          {last ? `The last nightly backup is of ${spoken(last.date)}.` : "No backup was made yet."}{" "}
          A backup is made every night after 03:00. If none appears, see the server's log.
        </p>
      )}
      {last && !nights.late && (
        <p>
          Last nightly backup: {spoken(last.date)}, {inMegabytes(last.size)}. {nights.made.length}{" "}
          of them are in {nights.folder}, on this machine: keep one elsewhere too.
        </p>
      )}
    </div>
  );
}

export function Exports() {
  const [said, setSaid] = useState("");
  const make = useWrite(backUp, {
    onDone: (name) => setSaid(`${name} is ready. Store it on another machine.`),
    onRefused: (refusal) => setSaid(`No backup was made: ${refusal.message}`),
  });
  return (
    <section aria-label="Export" className={styles.away}>
      <h2>Export</h2>
      <p className={fieldStyles.lineTools}>
        {TABLES.map((table) => (
          <a key={table} href={at(`/api/tables/${table}`)} download={`${table}.csv`}>
            {table}.csv
          </a>
        ))}
        <a href={at("/api/everything")} download>
          All records (zip)
        </a>
      </p>
      <p>
        All records are JSON lines with their schema, tables as CSV and boards as text: any program
        can read them. Passwords, links and heart rates are left out. A backup holds everything.
      </p>
      <div className={fieldStyles.lineTools}>
        <Button variant="default" onClick={() => make.mutate(undefined)} loading={make.isPending}>
          Back up
        </Button>
        {said && <span role="status">{said}</span>}
      </div>
      <Nights />
    </section>
  );
}
