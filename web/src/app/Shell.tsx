// The frame before anything is known: what the page itself shows until then, so that nothing jumps.
import { Waiting } from "../ui/states";
import styles from "./Shell.module.css";

export function Shell() {
  return (
    <>
      <div className={styles.top} aria-hidden />
      <Waiting />
    </>
  );
}
