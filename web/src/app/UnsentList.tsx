// What waits on this device to be sent, and what was refused: looked at, mended or given up.
import { Button, Modal } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { useWaiting } from "../offline/outbox";
import { drop, type Waiting as Entry, restore } from "../offline/queue";
import { brief } from "../ui/dates";
import styles from "./Frame.module.css";

/** An entry in words, and where it is mended. */
function told(one: Entry): [words: string, where: string] {
  const day = (step: string) => `/day/${one.date}/${step}`;
  const mine = `/me/${one.date}`;
  switch (one.kind) {
    case "score":
      return [`score “${one.body.entered}”`, one.mine ? mine : day("score")];
    case "jot":
      return [
        one.jot.number === null
          ? `round ${one.jot.round} removed`
          : `round ${one.jot.round}: ${one.jot.number}`,
        one.mine ? mine : day("run"),
      ];
    case "here":
      return [one.here ? "somebody who came" : "somebody who is not here", day("run")];
    case "check-in":
      return [one.here ? `checked in at ${one.start}` : `not coming at ${one.start}`, mine];
    case "effort":
      return [`effort ${one.body.effort}`, mine];
    case "finish":
      return ["an end on the clock", day("run")];
  }
}

export function UnsentList({ me, close }: { me: number; close: () => void }) {
  const waiting = useWaiting(me);
  const [given, setGiven] = useState<readonly Entry[]>([]);
  const gone = given.filter((old) => !waiting.some((one) => one.id === old.id));
  return (
    <Modal opened onClose={close} title="Waiting on this device" size="lg">
      <p>
        What has not been sent goes by itself once the server answers. What was refused stays here
        until it is mended in its place or given up.
      </p>
      <ul className={styles.waiting}>
        {[...waiting, ...gone].map((one) => {
          const [words, where] = told(one);
          const left = gone.includes(one);
          return (
            <li key={one.id}>
              <Link to={where} onClick={close}>
                {brief(one.date)}
              </Link>
              : {left ? <s>{words}</s> : words}
              {one.refused && !left && <span role="alert">: {one.refused.words}</span>}
              {one.refused && (
                <Button
                  size="compact-sm"
                  variant="default"
                  aria-label={`${left ? "Restore" : "Discard"} ${words}`}
                  onClick={() => {
                    if (left) return restore(one);
                    setGiven([...given, one]);
                    drop(one.id);
                  }}
                >
                  {left ? "Restore" : "Discard"}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </Modal>
  );
}
