// The menu of one piece on the board.
import { Button, Menu } from "@mantine/core";

/** What can be done with a piece without typing; undo takes each back. */
export function PieceTools({
  title,
  rests,
  onHeading,
  onAdd,
  onMove,
  onRemove,
  onKeep,
}: {
  title: string;
  rests: boolean;
  onHeading: () => void;
  onAdd: () => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
  onKeep: () => void;
}) {
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <Button size="compact-sm" variant="subtle" aria-label={`Change the piece ${title}`}>
          Change
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={onHeading}>Name, timing and rules</Menu.Item>
        {!rests && <Menu.Item onClick={onAdd}>Add a line</Menu.Item>}
        <Menu.Item onClick={() => onMove(-1)}>Move up</Menu.Item>
        <Menu.Item onClick={() => onMove(1)}>Move down</Menu.Item>
        <Menu.Item onClick={onKeep}>Save as template…</Menu.Item>
        <Menu.Item onClick={onRemove}>Remove</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
