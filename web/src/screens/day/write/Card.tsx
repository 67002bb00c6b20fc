// The notation on one page: every example can be put into the board.
import { Drawer, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import styles from "./Card.module.css";

type Example = Schemas["CardExample"];

/** The card's sections with the examples that hold all the words looked for. */
export function matching(
  card: readonly Schemas["CardSection"][],
  words: string,
): Schemas["CardSection"][] {
  const sought = words.toLowerCase().split(/\s+/).filter(Boolean);
  return card
    .map((section) => ({
      ...section,
      examples: section.examples.filter((one) => {
        const held = `${section.title} ${one.text} ${one.says}`.toLowerCase();
        return sought.every((word) => held.includes(word));
      }),
    }))
    .filter((section) => section.examples.length > 0);
}

export function Card({
  card,
  onPut,
  onClose,
}: {
  card: readonly Schemas["CardSection"][];
  onPut: (example: Example) => void;
  onClose: () => void;
}) {
  const [words, setWords] = useState("");
  const found = matching(card, words);
  return (
    <Drawer
      opened
      onClose={onClose}
      position="right"
      size={560}
      title="What can be written"
      closeButtonProps={{ "aria-label": "Close the card" }}
    >
      <TextInput
        data-autofocus
        label="Search"
        placeholder="rest, ladder, load, partners…"
        value={words}
        onChange={(event) => setWords(event.currentTarget.value)}
      />
      {found.length === 0 && <p>Nothing on the card holds that.</p>}
      {found.map((section) => (
        <section key={section.title} className={styles.section} aria-label={section.title}>
          <h2>{section.title}</h2>
          <ul>
            {section.examples.map((one) => (
              <li key={one.text}>
                <button type="button" onClick={() => onPut(one)}>
                  <code>{one.text}</code>
                  <span>{one.says}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
      <p className={styles.keys}>
        A press puts an example into the board; undo takes it back. The keys of all screens are
        behind the question mark at the top.
      </p>
    </Drawer>
  );
}
