// The load of a week before and after its drafts: region by day, and the whole.
import type { Schemas } from "../../api/client";
import { at } from "../../ui/dates";
import styles from "./Planning.module.css";

type WeekOut = Schemas["Week"];
const short = (date: string) => at(date).toLocaleDateString("en-GB", { weekday: "short" });

export function LoadChange({ before, after }: { before: WeekOut; after: WeekOut }) {
  return (
    <div className={styles.wide}>
      <table className={styles.change}>
        <caption>
          What the week would load (100 is the hardest sensible session for a region). Drafted days
          are in bold.
        </caption>
        <thead>
          <tr>
            <th scope="col">Region</th>
            {after.days.map(({ day }) => (
              <th scope="col" key={day.date}>
                {short(day.date)}
              </th>
            ))}
            <th scope="col">Now</th>
            <th scope="col">With drafts</th>
            <th scope="col">Usually</th>
          </tr>
        </thead>
        <tbody>
          {after.regions.map((region, row) => (
            <tr key={region.region}>
              <th scope="row">{region.region}</th>
              {after.days.map(({ day }, place) => {
                const dose = Math.round(region.daily[place] ?? 0);
                const drafted = !before.days[place]?.outline;
                return (
                  <td
                    key={day.date}
                    className="num"
                    data-hard={region.hard.includes(day.date) || undefined}
                  >
                    {dose > 0 && (drafted ? <b>{dose}</b> : dose)}
                  </td>
                );
              })}
              <td className="num">{Math.round(before.regions[row]?.whole ?? 0)}</td>
              <td className="num">{Math.round(region.whole)}</td>
              <td className="num">{region.usual !== null && Math.round(region.usual)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {after.remarks.length > 0 && (
        <ul aria-label="Remarks on the week with its drafts">
          {after.remarks.map((remark) => (
            <li key={remark.message}>{remark.message}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
