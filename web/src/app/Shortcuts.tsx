// The list of single keys, and the switch that turns them off.
import { Kbd, Modal, Switch } from "@mantine/core";
import { useState } from "react";
import { shortcutsOn, switchShortcuts } from "../ui/hotkeys";
import styles from "./Frame.module.css";

export function Shortcuts({ opened, close }: { opened: boolean; close: () => void }) {
  const [on, setOn] = useState(shortcutsOn());
  const rows: [string[], string][] = [
    [["Ctrl", "K"], "go to a day, an athlete, a movement, a place"],
    [["w"], "write the board"],
    [["r"], "scale for everybody"],
    [["g"], "run the class"],
    [["s"], "fill the score sheet"],
    [["c"], "compare the results"],
    [["k"], "the week"],
    [["a"], "athletes"],
    [["m"], "movements"],
    [["["], "the day before"],
    [["]"], "the day after"],
    [["t"], "today"],
    [["?"], "this list; in Write the card of the notation"],
    [["Space"], "in Run and on the floor: start, pause, resume"],
    [["n"], "in Run: next"],
    [["u"], "in Run and on the floor: undo the newest; asks before a running clock stops"],
    [["←", "→"], "on the floor: the piece before, the next piece"],
    [["Esc"], "on the floor: exit floor mode"],
    [["Ctrl", "Space"], "on the board: offer words"],
    [["Tab"], "on the board: take the word offered, or the reading of the line"],
    [["Ctrl", "Z"], "on the board: undo"],
    [["Enter"], "on the score sheet: keep the score, go down"],
    [["Alt", "1"], "on the score sheet: first tier (2, 3: the next)"],
    [["Alt", "T"], "on the score sheet: the other track"],
    [["Esc"], "on the score sheet: back to what was kept"],
  ];
  return (
    <Modal opened={opened} onClose={close} title="Shortcuts" size="md">
      <table className={styles.keys}>
        <tbody>
          {rows.map(([keys, what]) => (
            <tr key={what}>
              <td>
                {keys.map((key) => (
                  <Kbd key={key}>{key}</Kbd>
                ))}
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Switch
        mt="md"
        label="Single-key shortcuts"
        checked={on}
        onChange={(event) => {
          setOn(event.currentTarget.checked);
          switchShortcuts(event.currentTarget.checked);
        }}
      />
    </Modal>
  );
}
