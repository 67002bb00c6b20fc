// The gym to take away: its tables as CSV, and a backup of everything in one file.
import { Button } from "@mantine/core";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { useWrite } from "../../api/writes";
import fieldStyles from "../../ui/fields.module.css";
import styles from "./TakeAway.module.css";

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

export function TakeAway() {
  const [said, setSaid] = useState("");
  const make = useWrite(backUp, {
    onDone: (name) => setSaid(`${name} is made. Keep it away from this machine.`),
    onRefused: (refusal) => setSaid(`No backup was made: ${refusal.message}`),
  });
  return (
    <section aria-label="To take away" className={styles.away}>
      <h2>To take away</h2>
      <p className={fieldStyles.lineTools}>
        {TABLES.map((table) => (
          <a key={table} href={`/api/tables/${table}`} download={`${table}.csv`}>
            {table}.csv
          </a>
        ))}
      </p>
      <div className={fieldStyles.lineTools}>
        <Button variant="default" onClick={() => make.mutate(undefined)} loading={make.isPending}>
          Back up everything
        </Button>
        {said && <span role="status">{said}</span>}
      </div>
    </section>
  );
}
