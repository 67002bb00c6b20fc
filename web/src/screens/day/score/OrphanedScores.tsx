// Scores whose piece the board no longer has: seen here, put onto a piece, or back.
import { Button, Menu } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { pieces as piecesQuery } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import wordStyles from "../../../ui/words.module.css";

export function OrphanedScores({
  date,
  aside,
  rows,
}: {
  date: string;
  aside: readonly Schemas["Aside"][];
  rows: readonly Schemas["SheetRow"][];
}) {
  const found = useQuery(piecesQuery(date));
  const put = useWrite(
    ({ key, to }: { key: string; to: string }) =>
      ask(
        api.POST("/api/days/{date}/pieces/{key}/put", {
          params: { path: { date, key } },
          body: { to },
        }),
      ),
    { touches: () => [keys.day(date)] },
  );
  const nameOf = (id: number) => rows.find((row) => row.person_id === id)?.name ?? "";
  const all = found.data ?? [];
  const standing = all.filter((one) => !one.aside);
  const moved = standing.flatMap((one) =>
    one.came_from.map((from) => ({
      on: one,
      from: all.find((other) => other.key === from),
    })),
  );
  if (aside.length === 0 && moved.length === 0) return null;
  return (
    <section className={wordStyles.safety} aria-label="Scores set aside">
      {aside.map((one) => (
        <div key={one.key} className="aside">
          <p>
            <b>{one.title || "A piece"}</b> is no longer on the board. Its{" "}
            {one.scores.length === 1 ? "score is" : `${one.scores.length} scores are`} kept:{" "}
            <span className="num">
              {one.scores.map((score) => `${nameOf(score.person_id)} ${score.display}`).join(" · ")}
            </span>
          </p>
          <Menu position="bottom-start">
            <Menu.Target>
              <Button size="compact-sm" variant="default" loading={put.isPending}>
                Put them onto a piece
              </Button>
            </Menu.Target>
            <Menu.Dropdown>
              {standing.map((to) => (
                <Menu.Item key={to.key} onClick={() => put.mutate({ key: one.key, to: to.key })}>
                  {to.title}
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        </div>
      ))}
      {moved.map(
        ({ on, from }) =>
          from && (
            <p key={`${on.key}/${from.key}`}>
              Scores of {from.title} were put onto {on.title}.{" "}
              <Button
                size="compact-sm"
                variant="default"
                onClick={() => put.mutate({ key: on.key, to: from.key })}
              >
                Put them back
              </Button>
            </p>
          ),
      )}
    </section>
  );
}
