// A piece to add: of the gym's own, from an earlier day, or of any format.
import { Button, Menu } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import styles from "./Write.module.css";

/** A piece of every format to begin from, each with when coaches use it. */
export function Insert({
  templates,
  kept,
  here,
  onChoose,
  onEarlier,
}: {
  templates: readonly Schemas["Template"][];
  kept: readonly Schemas["Kept"][];
  /** Named where it stands between pieces: small, until it is pointed at. */
  here?: string;
  onChoose: (piece: string) => void;
  onEarlier: () => void;
}) {
  return (
    <Menu position="top-start" width={420} returnFocus={false}>
      <Menu.Target>
        {here ? (
          <button type="button" className={styles.here} aria-label={here}>
            <span>+ insert here</span>
          </button>
        ) : (
          <Button size="compact-sm">Add a piece</Button>
        )}
      </Menu.Target>
      <Menu.Dropdown className={styles.insert}>
        <Menu.Item onClick={onEarlier}>
          <b>From an earlier day…</b>
          <small>Whole, or one of its pieces.</small>
        </Menu.Item>
        {kept.map((piece) => (
          <Menu.Item key={piece.id} onClick={() => onChoose(piece.text)}>
            <b>{piece.name}</b>
            <small>kept by name</small>
          </Menu.Item>
        ))}
        {templates.map((template) => (
          <Menu.Item key={template.label} onClick={() => onChoose(template.text)}>
            <b>{template.label}</b>
            <small>{template.when}</small>
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
