// The end of a form: Save, and in sight from anywhere in it while something is unsaved.
import { Button } from "@mantine/core";
import styles from "./SaveBar.module.css";
import wordStyles from "./words.module.css";

export function SaveBar({
  unsaved,
  outcome,
  saving = false,
}: {
  unsaved: boolean;
  outcome: { saved: boolean; text: string } | null;
  saving?: boolean;
}) {
  return (
    <>
      {outcome && !outcome.saved && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {outcome.text}
        </p>
      )}
      {unsaved && <div className={styles.room} />}
      <div className={styles.bar} data-unsaved={unsaved || undefined}>
        {unsaved && <b>Unsaved changes</b>}
        <Button type="submit" loading={saving}>
          Save
        </Button>
        {unsaved && (
          <Button type="reset" variant="default">
            Discard
          </Button>
        )}
        {outcome?.saved && !unsaved && <span role="status">{outcome.text}</span>}
      </div>
    </>
  );
}
