// What the week loads: a picture of patterns by days, against the gym's usual week.
import { Fragment, useState } from "react";
import type { Schemas } from "../../api/client";
import { at, minutes } from "../../ui/dates";
import fieldStyles from "../../ui/fields.module.css";
import styles from "./Balance.module.css";

type WeekOut = Schemas["Week"];
type Day = WeekOut["days"][number];

const BAR_PX = 28;
const FULL_S = 270;
/** The dose of the hardest sensible session for a region. */
const HARDEST = 100;
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

/** A bar of a share of the most (0 to 1) with its number in words; nothing for nothing. */
function Bar({
  share,
  words,
  hard,
  again,
}: {
  share: number;
  words: string;
  hard: boolean;
  again: boolean;
}) {
  if (share === 0) return <span className={styles.none} aria-hidden />;
  return (
    <span
      className={styles.bar}
      data-level={hard ? "hard" : "some"}
      data-again={again || undefined}
    >
      <i style={{ height: `${Math.min(BAR_PX, Math.max(3, share * BAR_PX))}px` }} aria-hidden />
      <span className="num">{words}</span>
      {hard && <b title={again ? "hard two days running" : undefined}>hard</b>}
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
  const { days, regions, patterns } = week;
  const [open, setOpen] = useState<string | null>(null);
  // One long day would flatten all others: from here on a bar is full.
  const most = Math.min(FULL_S, Math.max(1, ...patterns.flatMap((one) => one.daily)));
  const whole = Math.max(1, ...patterns.flatMap((one) => [one.whole, one.usual ?? 0]));
  const roles = days.map(byRole);
  const named = [...new Set(roles.flatMap((day) => [...day.keys()]))].filter((r) => r !== "rest");
  return (
    <section className={styles.balance} aria-label="What the week loads">
      <table>
        <caption>
          How hard each day is on a region (100 is the hardest sensible session). Open a region for
          the minutes of its patterns.
        </caption>
        <thead>
          <tr>
            <th scope="col">Region</th>
            {days.map((one) => (
              <th scope="col" key={one.day.date}>
                {short(one.day.date)}
              </th>
            ))}
            <th scope="col">The week</th>
          </tr>
        </thead>
        <tbody>
          {regions.map((region) => {
            const own = patterns.filter((one) => one.region === region.region);
            const shown = open === region.region;
            return (
              <Fragment key={region.region}>
                <tr>
                  <th scope="row">
                    <button
                      type="button"
                      className={fieldStyles.pick}
                      aria-expanded={shown}
                      onClick={() => setOpen(shown ? null : region.region)}
                    >
                      {region.region}
                    </button>
                  </th>
                  {days.map((day, place) => {
                    const dose = region.daily[place] ?? 0;
                    return (
                      <td key={day.day.date}>
                        <Bar
                          share={Math.round(dose) / HARDEST}
                          words={String(Math.round(dose))}
                          hard={region.hard.includes(day.day.date)}
                          again={region.in_a_row.includes(day.day.date)}
                        />
                      </td>
                    );
                  })}
                  <td className="num">
                    {Math.round(region.whole)}
                    {region.usual !== null && <small> usually {Math.round(region.usual)}</small>}
                  </td>
                </tr>
                {shown &&
                  own.map((one) => (
                    <tr key={one.pattern} className={styles.sum}>
                      <th scope="row">{one.pattern}</th>
                      {days.map((day, place) => (
                        <td key={day.day.date}>
                          <Bar
                            share={(one.daily[place] ?? 0) / most}
                            words={minutes(one.daily[place] ?? 0)}
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
              </Fragment>
            );
          })}
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
        {week.remarks.length === 0 && <p>Balanced.</p>}
        <ul className={styles.remarks} aria-label="Remarks">
          {week.remarks.map((remark) => (
            <li key={remark.message}>{remark.message}</li>
          ))}
        </ul>
      </div>
    </section>
  );
}
