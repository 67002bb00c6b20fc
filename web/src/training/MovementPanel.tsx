// A movement of the board shown large, with what counts: over the day on a phone.
import { Modal } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { figure } from "../api/figures";
import { movement } from "../api/queries";
import wordStyles from "../ui/words.module.css";
import { Faults, Figure } from "./Figure";
import styles from "./MovementDetail.module.css";
import type { Shows } from "./movementDetail";

function One({ name, tempo }: { name: string; tempo: string }) {
  const found = useQuery(figure(name, tempo || undefined));
  const words = useQuery(movement(name)).data?.movement;
  return (
    <section className={styles.one} aria-label={name}>
      <h2>{name}</h2>
      <div className={styles.large}>
        {found.data && <Figure cycle={found.data} tools />}
        {found.error && <p>This movement cannot be shown without the network yet.</p>}
      </div>
      {words && <p>{words.standard}</p>}
      {words && words.cautions.length > 0 && (
        <ul className={wordStyles.cautions} aria-label="Cautions">
          {words.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      )}
      {found.data && <Faults cycle={found.data} />}
    </section>
  );
}

export function MovementPanel({ shows, onClose }: { shows: Shows; onClose: () => void }) {
  return (
    <Modal
      opened
      onClose={onClose}
      title={shows.tempo ? `How it goes, at ${shows.tempo}` : "How it goes"}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      {shows.movements.map((name) => (
        <One key={name} name={name} tempo={shows.tempo} />
      ))}
    </Modal>
  );
}
