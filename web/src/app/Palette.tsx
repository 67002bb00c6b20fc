// One line for the whole program: a day, an athlete, a movement, a place, by a few letters.
import { useComputedColorScheme, useMantineColorScheme } from "@mantine/core";
import { createSpotlight, Spotlight, type SpotlightActionGroupData } from "@mantine/spotlight";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { athletes as athletesQuery, boardWords, week as weekQuery } from "../api/queries";
import { spoken } from "../ui/dates";
import { dayNames } from "./dayNames";
import { mayLeave } from "./leaving";
import styles from "./Palette.module.css";
import "./palette.css";

const [store, palette] = createSpotlight();
const SHOWN = 8;

const STEPS = ["Write", "Scale", "Run", "Score", "Compare"];

/** Whether every word that is sought begins a word of the label. */
export function fits(sought: string, label: string): boolean {
  const words = label.toLowerCase().split(/[^\p{L}\p{N}]+/u);
  return sought
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((part) => words.some((word) => word.startsWith(part)));
}

/** Enter takes the first that was found, also where it came after the typing. */
function takeFirst(event: KeyboardEvent<HTMLInputElement>) {
  const chosen = document.querySelector(".mantine-Spotlight-action[data-selected]");
  if (event.key !== "Enter" || chosen) return;
  document.querySelector<HTMLElement>(".mantine-Spotlight-action")?.click();
}

export function Palette({
  me,
  today,
  date,
  press,
}: {
  me: Schemas["Me"];
  today: string;
  date: string;
  /** How often it was called for on this screen. */
  press: number;
}) {
  const navigate = useNavigate();
  const coach = me.role === "coach";
  const people = useQuery({ ...athletesQuery, enabled: coach }).data ?? [];
  const movements = useQuery(boardWords).data?.movements ?? [];
  const week = useQuery({ ...weekQuery(today), enabled: coach }).data?.days ?? [];
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme("light");
  useEffect(() => {
    if (press) palette.open();
    return palette.close;
  }, [press]);
  const to = (label: string, path: string, description?: string) => ({
    id: path,
    label,
    description,
    onClick: () => mayLeave() && navigate(path),
  });
  const day = (at: string) => (coach ? `/day/${at}/write` : `/me/${at}`);
  const other = scheme === "dark" ? "light" : "dark";
  const filter = (query: string) => {
    const said = dayNames(query, today);
    const groups: SpotlightActionGroupData[] = [
      { group: "A day", actions: said ? [to(spoken(said), day(said), "the day you typed")] : [] },
      {
        group: "This day",
        actions: coach
          ? STEPS.map((step) => to(`${step} ${spoken(date)}`, `/day/${date}/${step.toLowerCase()}`))
          : [],
      },
      {
        group: "This week",
        actions: week
          .filter((one) => one.title)
          .map((one) => to(`${one.title}`, day(one.day.date), spoken(one.day.date))),
      },
      {
        group: "Athletes",
        actions: people.map((one) => to(one.name, `/athletes/${one.id}`)),
      },
      {
        group: "Movements",
        actions: movements.map((one) =>
          to(one.name, `/movements/${encodeURIComponent(one.name)}`, one.aliases.join(", ")),
        ),
      },
      {
        group: "Places",
        actions: [
          to("Today", day(today)),
          ...(coach
            ? [
                to("Week", `/week/${date}`),
                to("Athletes", "/athletes"),
                to("Gym: hour, kit, classes, mail", "/gym"),
                to("People: add, invite, let go", "/people"),
              ]
            : []),
          ...(me.trains ? [to("About me: bests, history", "/profile")] : []),
          to("Bests", "/bests"),
          to("Movements", "/movements"),
          to("Settings and privacy", "/account"),
          {
            id: "light",
            label: `Switch to ${other}`,
            onClick: () => setColorScheme(other),
          },
        ],
      },
    ];
    return groups
      .map((group) => ({
        ...group,
        actions: group.actions
          .filter(
            (one) =>
              group.group === "A day" ||
              (query.trim()
                ? fits(query, `${one.label} ${one.description ?? ""}`)
                : group.group !== "Athletes" && group.group !== "Movements"),
          )
          // Who is called so comes before who is also called so.
          .sort((a, b) => Number(fits(query, b.label ?? "")) - Number(fits(query, a.label ?? "")))
          .slice(0, SHOWN),
      }))
      .filter((group) => group.actions.length > 0);
  };
  return (
    <Spotlight
      store={store}
      actions={filter("")}
      filter={filter}
      shortcut={null}
      nothingFound="Nothing is called that."
      highlightQuery
      scrollable
      classNames={{ actionsList: styles.list, search: styles.search, actionsGroup: styles.group }}
      maxHeight={420}
      searchProps={{
        onKeyDown: takeFirst,
        placeholder: "A day, an athlete, a movement, a place",
        "aria-label": "Go to",
      }}
    />
  );
}
