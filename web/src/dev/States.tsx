// In development alone: every screen in each of its states, side by side.
import { useState } from "react";
import { base } from "../api/base";
import { STATES } from "./pretend";
import styles from "./States.module.css";

const screensOn = (today: string) =>
  [
    ["Write", `/day/${today}/write`],
    ["Scale", `/day/${today}/scale`],
    ["Run", `/day/${today}/run`],
    ["Score", `/day/${today}/score`],
    ["Compare", `/day/${today}/compare`],
    ["Week", `/week/${today}`],
    ["Athletes", "/athletes"],
    ["Movements", "/movements"],
    ["Bests", "/bests"],
    ["Gym", "/gym"],
    ["People", "/people"],
    ["My day", `/me/${today}`],
    ["Account", "/account"],
  ] as const;

const SIZES = { desk: [1280, 800], tablet: [820, 1180], phone: [390, 844] } as const;

export function States({ today }: { today: string }) {
  const screens = screensOn(today);
  const [path, setPath] = useState<string>(screens[0][1]);
  const [size, setSize] = useState<keyof typeof SIZES>("desk");
  const [width, height] = SIZES[size];
  return (
    <main className={styles.states}>
      <h1>Screens in their states</h1>
      <label>
        Screen{" "}
        <select value={path} onChange={(event) => setPath(event.currentTarget.value)}>
          {screens.map(([name, at]) => (
            <option key={at} value={at}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label>
        Size{" "}
        <select
          value={size}
          onChange={(event) => setSize(event.currentTarget.value as keyof typeof SIZES)}
        >
          {Object.keys(SIZES).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <div className={styles.shown}>
        {STATES.map((state) => (
          <figure key={state}>
            <figcaption>{state}</figcaption>
            <iframe
              title={`${path}, ${state}`}
              src={`${base}${path}?pretend=${state}`}
              width={width}
              height={height}
            />
          </figure>
        ))}
      </div>
    </main>
  );
}
