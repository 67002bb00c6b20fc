// Cycles that this week belongs to: each week as planned, and how much of it was held.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { keys } from "../../api/keys";
import { fileAt } from "../../api/programme";
import { brief } from "../../ui/dates";
import styles from "./Planning.module.css";

const BAR_PX = 70;

export function Cycles({ date, monday }: { date: string; monday: string }) {
  const found = useQuery({
    queryKey: keys.cycles(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/cycles/{date}", { signal, params: { path: { date } } })),
  });
  const now = found.data?.filter(({ weeks }) => {
    const last = weeks.at(-1)?.monday ?? "";
    return (weeks[0]?.monday ?? "") <= monday && monday <= last;
  });
  if (!now?.length) return null;
  return (
    <section className={styles.cycles} aria-label="Cycles">
      {now.map(({ name, of, weeks }) => {
        const most = Math.max(1, ...weeks.map((week) => week.planned));
        const height = (dose: number) => `${(dose / most) * BAR_PX}px`;
        const file = (kind: string) =>
          fileAt(`/api/cycles/${date}/${kind}?name=${encodeURIComponent(name)}`);
        return (
          <div key={name}>
            <h3>
              {name}, {of} weeks
            </h3>
            <p>
              The frame is what was planned, the filled part what was held.{" "}
              <a href={file("boards")} download>
                Boards as a zip
              </a>{" "}
              <a href={file("calendar")} download>
                Calendar file
              </a>
            </p>
            <ol>
              {weeks.map((week) => (
                <li key={week.week} aria-current={week.monday === monday ? "true" : undefined}>
                  <span className={styles.bar} aria-hidden>
                    <i style={{ height: height(week.planned) }} />
                    <i data-held style={{ height: height(week.held) }} />
                  </span>
                  <Link to={`/week/${week.monday}`}>
                    Week {week.week}, {brief(week.monday).replace(/^\w+ /, "")}
                  </Link>
                  <span>
                    {week.theme === "deload" ? "lighter" : (week.theme ?? "")} {week.held_days} of{" "}
                    {week.days} held
                  </span>
                  <span className="num">
                    {week.hard_days} hard, {week.landings} landings
                  </span>
                </li>
              ))}
            </ol>
          </div>
        );
      })}
    </section>
  );
}
