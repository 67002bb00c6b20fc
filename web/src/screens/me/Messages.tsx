// What coaches said to my class of a day.
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { keys } from "../../api/keys";
import { clockTime } from "../../ui/dates";
import styles from "./MyClass.module.css";

export function Messages({ date }: { date: string }) {
  const found = useQuery({
    queryKey: keys.myWords(date),
    queryFn: ({ signal }) =>
      ask(api.GET("/api/me/days/{date}/words", { signal, params: { path: { date } } })),
  });
  if (!found.data?.length) return null;
  return (
    <section className={styles.mine} aria-label="From the coach">
      {found.data.map((one) => (
        <p key={one.said_at}>
          {one.text}{" "}
          <small>
            {one.by} {clockTime(one.said_at)}
            {one.start && `, to the class at ${one.start.slice(0, 5)}`}
          </small>
        </p>
      ))}
    </section>
  );
}
