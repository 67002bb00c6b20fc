// What the week loads: a picture of patterns by days, against the gym's usual week.
import type { Schemas } from "../../api/client";
import { at, minutes } from "../../ui/dates";
import styles from "./Balance.module.css";

type WeekOut = Schemas["Week"];
type Day = WeekOut["days"][number];

const BAR_PX = 28;
const FULL_S = 270;
const short = (date: string) => at(date).toLocaleDateString("en-GB", { weekday: "short" });
/** Planned minutes of a day by what they are for. */
function byRole(day: Day): Map<string, number> {
  const found = new Map<string, number>();
  for (const piece of day.outline?.pieces ?? []) {
    const middle = (piece.length.low_s + piece.length.high_s) / 2;
    found.set(piece.role, (found.get(piece.role) ?? 0) + middle);
  }
  return found;
}

function Bar({
  seconds,
  most,
  hard,
  again,
}: {
  seconds: number;
  most: number;
  hard: boolean;
  again: boolean;
}) {
  if (seconds === 0) return <span className={styles.none} aria-hidden />;
  return (
    <span
      className={styles.bar}
      data-level={hard ? "hard" : "some"}
      data-again={again || undefined}
    >
      <i
        style={{ height: `${Math.min(BAR_PX, Math.max(3, (seconds / most) * BAR_PX))}px` }}
        aria-hidden
      />
      <span className="num">{minutes(seconds)}</span>
      {hard && <b>{again ? "hard again" : "hard"}</b>}
    </span>
  );
}

/** The week's sum against what is usual: the bar is the week, the mark is the usual one. */
function Whole({ one, most }: { one: WeekOut["patterns"][number]; most: number }) {
  const share = (value: number) => `${Math.min(100, (value / most) * 100)}%`;
  return (
    <span className={styles.whole}>
      <span aria-hidden>
        <i style={{ width: share(one.whole) }} />
        {one.usual !== null && <u style={{ left: share(one.usual) }} />}
      </span>
      <span className="num">
        {minutes(one.whole)}
        {one.usual !== null && <small> usually {minutes(one.usual)}</small>}
      </span>
    </span>
  );
}

export function Balance({ week }: { week: WeekOut }) {
  const { days, patterns } = week;
  // One long day would flatten all others: from here on a bar is full.
  const most = Math.min(FULL_S, Math.max(1, ...patterns.flatMap((one) => one.daily)));
  const whole = Math.max(1, ...patterns.flatMap((one) => [one.whole, one.usual ?? 0]));
  const roles = days.map(byRole);
  const named = [...new Set(roles.flatMap((day) => [...day.keys()]))].filter((r) => r !== "rest");
  return (
    <section className={styles.balance} aria-label="What the week loads">
      <table>
        <caption>Minutes of work by pattern, weighed by how hard it is</caption>
        <thead>
          <tr>
            <th scope="col">Pattern</th>
            {days.map((one) => (
              <th scope="col" key={one.day.date}>
                {short(one.day.date)}
              </th>
            ))}
            <th scope="col">The week</th>
          </tr>
        </thead>
        <tbody>
          {patterns.map((one) => (
            <tr key={one.pattern}>
              <th scope="row">{one.pattern}</th>
              {days.map((day, place) => (
                <td key={day.day.date}>
                  <Bar
                    seconds={one.daily[place] ?? 0}
                    most={most}
                    hard={day.load?.hard.includes(one.pattern) ?? false}
                    again={one.in_a_row.includes(day.day.date)}
                  />
                </td>
              ))}
              <td>
                <Whole one={one} most={whole} />
              </td>
            </tr>
          ))}
          <tr className={styles.sum}>
            <th scope="row">landings</th>
            {days.map((one) => (
              <td key={one.day.date} className="num">
                {one.load?.landings || ""}
              </td>
            ))}
            <td className="num">{days.reduce((sum, one) => sum + (one.load?.landings ?? 0), 0)}</td>
          </tr>
          <tr className={styles.sum}>
            <th scope="row" title="Slow lifts, holds and carries">
              under tension
            </th>
            {days.map((one) => (
              <td key={one.day.date} className="num">
                {one.load?.tension_s ? minutes(one.load.tension_s) : ""}
              </td>
            ))}
            <td className="num">
              {minutes(days.reduce((sum, one) => sum + (one.load?.tension_s ?? 0), 0))}
            </td>
          </tr>
          {named.map((role) => (
            <tr key={role} className={styles.sum}>
              <th scope="row">{role}</th>
              {roles.map((day, place) => (
                <td key={days[place]?.day.date} className="num">
                  {day.has(role) ? minutes(day.get(role) ?? 0) : ""}
                </td>
              ))}
              <td className="num">
                {minutes(roles.reduce((sum, day) => sum + (day.get(role) ?? 0), 0))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div>
        {week.remarks.length === 0 && <p>Nothing lopsided.</p>}
        <ul className={styles.remarks} aria-label="Remarks">
          {week.remarks.map((remark) => (
            <li key={remark.message}>{remark.message}</li>
          ))}
        </ul>
      </div>
    </section>
  );
}
