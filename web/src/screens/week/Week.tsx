// Seven days side by side: mini rulers, what each loads, and where the week is lopsided.
import { Button, Menu } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { fileAt } from "../../api/programme";
import { bank as bankQuery, week as weekQuery } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { HourRuler } from "../../training/HourRuler";
import { shift, spoken } from "../../ui/dates";
import { Failed, Waiting } from "../../ui/states";
import { Balance } from "./Balance";
import { Cycles } from "./Cycles";
import { DraftWeek } from "./DraftWeek";
import { PlanCycle } from "./PlanCycle";
import { Season } from "./Season";
import { StepForward } from "./StepForward";
import { Theme } from "./Theme";
import styles from "./Week.module.css";

type WeekDay = Schemas["WeekDay"];
type DayOut = Schemas["DayOut"];

const put = (date: string, text: string, version: number) =>
  ask(
    api.PUT("/api/days/{date}", {
      params: { path: { date } },
      body: { text, version, answers: [] },
    }),
  );

const publishDay = (day: { date: string; version: number }, published: boolean) =>
  ask(
    api.PUT("/api/days/{date}/published", {
      params: { path: { date: day.date } },
      body: { published, version: day.version, despite: false },
    }),
  );

/** What is published of this week, written to everybody who follows it. */
function TellWeek({ date }: { date: string }) {
  const tell = useWrite(
    () => ask(api.POST("/api/week/{date}/tell", { params: { path: { date } } })),
    {
      onDone: ({ letters }) =>
        notifications.show({
          message: letters
            ? `${letters === 1 ? "1 letter goes" : `${letters} letters go`} out.`
            : "Nothing to say that members do not know: publish a day first.",
        }),
    },
  );
  return (
    <Button
      size="compact-sm"
      variant="default"
      loading={tell.isPending}
      onClick={() => tell.mutate(undefined)}
    >
      Email members
    </Button>
  );
}

export function Week({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const { date = gym.today } = useParams();
  if (!/^\d{4}-\d\d-\d\d$/.test(date)) return <Navigate to={`/week/${gym.today}`} replace />;
  return <WeekOf me={me} gym={gym} date={date} />;
}

function WeekOf({ me, gym, date }: { me: Schemas["Me"]; gym: Schemas["GymOut"]; date: string }) {
  const week = useQuery(weekQuery(date));
  const bank = useQuery(bankQuery);
  const [stepping, setStepping] = useState<DayOut | null>(null);
  const [planning, setPlanning] = useState<"week" | "cycle" | null>(null);

  /** Do something to days, say so, and offer to undo it. */
  const doing = useWrite(
    ({ work }: { said: string; work: () => Promise<(() => Promise<unknown>) | undefined> }) =>
      work(),
    {
      onDone: (undo, { said }) => tell(said, undo),
      touches: () => [keys.weeks, keys.days, keys.bank],
    },
  );
  const act = (said: string, work: () => Promise<(() => Promise<unknown>) | undefined>) =>
    doing.mutate({ said, work });
  const tell = (said: string, undo: (() => Promise<unknown>) | undefined) => {
    const id = notifications.show({
      autoClose: 12_000,
      message: (
        <span className={styles.undo}>
          {said}
          {undo && (
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                notifications.hide(id);
                act("Undone.", async () => {
                  await undo();
                  return undefined;
                });
              }}
            >
              Undo
            </Button>
          )}
        </span>
      ),
    });
  };

  const clear = (day: DayOut, aside: boolean) =>
    act(`${spoken(day.date)} cleared${aside ? "; its scores are set aside" : ""}.`, async () => {
      const now = await ask(
        api.POST("/api/days/{date}/clear", {
          params: { path: { date: day.date } },
          body: { version: day.version, aside },
        }),
      );
      return () => put(day.date, day.text, now.version);
    });

  const copy = (day: DayOut, to: DayOut, move: boolean, carry = false) =>
    act(`${move ? "Moved" : "Copied"} to ${spoken(to.date)}.`, async () => {
      const [source, target] = await ask(
        api.POST("/api/days/{date}/copy", {
          params: { path: { date: day.date } },
          body: { to: to.date, version: to.version, move, carry },
        }),
      );
      if (!target || !source) return undefined;
      if (!move) return () => put(target.date, "", target.version);
      // What hangs on the day comes back with it.
      return () =>
        ask(
          api.POST("/api/days/{date}/copy", {
            params: { path: { date: target.date } },
            body: { to: source.date, version: source.version, move: true, carry: true },
          }),
        );
    });

  const publish = (day: DayOut, published: boolean) =>
    act(published ? `${spoken(day.date)} is published.` : "Taken back.", async () => {
      const done = await publishDay(day, published);
      return () => publishDay(done, !published);
    });

  const stepForward = (day: DayOut, accept: string[]) =>
    act(`Copied to ${spoken(shift(day.date, 7))}.`, async () => {
      const made = await ask(
        api.POST("/api/days/{date}/forward", {
          params: { path: { date: day.date } },
          body: { accept },
        }),
      );
      return () => put(made.date, "", made.version);
    });

  const keep = (day: DayOut) =>
    act("Saved.", async () => {
      const kept = await ask(api.POST("/api/bank", { body: { date: day.date } }));
      return () => forget(kept.id);
    });

  const forget = (id: number) =>
    ask(api.DELETE("/api/bank/{board_id}", { params: { path: { board_id: id } } }));

  const place = (id: number, to: DayOut) =>
    act(`Written on ${spoken(to.date)}.`, async () => {
      const made = await ask(
        api.POST("/api/bank/{board_id}/place", {
          params: { path: { board_id: id } },
          body: { to: to.date, version: to.version },
        }),
      );
      return () => put(made.date, "", made.version);
    });

  const days = week.data?.days ?? [];
  const empty = days.filter((one) => !one.outline);
  const targets = (one: WeekDay): DayOut[] => [
    ...empty.map((other) => other.day).filter((other) => other.date !== one.day.date),
  ];
  const [dragged, drag] = useState<WeekDay | null>(null);
  const [over, setOver] = useState<string | null>(null);
  /** Onto a free day: moved with all that hangs on it, copied where a key is held. */
  const drop = (to: DayOut, copied: boolean) => {
    if (dragged) copy(dragged.day, to, !copied, !copied && dragged.scored);
    drag(null);
    setOver(null);
  };
  const nextFree = (one: WeekDay, way: -1 | 1) => {
    const ahead = empty.filter((other) => (other.day.date > one.day.date ? 1 : -1) === way);
    return way > 0 ? ahead[0]?.day : ahead.at(-1)?.day;
  };
  const pressed = (one: WeekDay, event: React.KeyboardEvent) => {
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : null;
    const to = way && nextFree(one, way);
    if (!way) return;
    event.preventDefault();
    if (to) copy(one.day, to, !event.shiftKey, !event.shiftKey && one.scored);
  };
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="week">
      {stepping && (
        <StepForward
          date={stepping.date}
          onClose={() => setStepping(null)}
          onDone={(accept) => {
            stepForward(stepping, accept);
            setStepping(null);
          }}
        />
      )}
      <div className={styles.week}>
        <header className={styles.head}>
          <Link to={`/week/${shift(date, -7)}`} aria-label="Week before">
            ‹
          </Link>
          <h1>{week.data ? `Week of ${spoken(week.data.monday)}` : "Week"}</h1>
          <Link to={`/week/${shift(date, 7)}`} aria-label="Week after">
            ›
          </Link>
          <Button
            size="compact-sm"
            variant="default"
            aria-expanded={planning === "week"}
            onClick={() => setPlanning(planning === "week" ? null : "week")}
          >
            Draft empty days
          </Button>
          <Button
            size="compact-sm"
            variant="default"
            aria-expanded={planning === "cycle"}
            onClick={() => setPlanning(planning === "cycle" ? null : "cycle")}
          >
            Plan a cycle
          </Button>
          <TellWeek date={date} />
          <span className={styles.files}>
            <a href={fileAt(`/api/week/${date}/boards`)} download>
              Boards as a zip
            </a>
            <a href={fileAt(`/api/week/${date}/calendar`)} download>
              Calendar file
            </a>
          </span>
        </header>
        {week.data && (
          <Theme
            key={week.data.monday}
            monday={week.data.monday}
            text={week.data.theme}
            version={week.data.theme_version}
          />
        )}
        {week.data && planning === "week" && (
          <DraftWeek
            key={week.data.monday}
            week={week.data}
            today={gym.today}
            tell={tell}
            onClose={() => setPlanning(null)}
          />
        )}
        {week.data && planning === "cycle" && (
          <PlanCycle
            monday={week.data.monday}
            today={gym.today}
            tell={tell}
            onClose={() => setPlanning(null)}
          />
        )}
        {week.error && <Failed error={week.error} retry={() => week.refetch()} />}
        {week.isPending && <Waiting what="Laying out the week" />}
        <ol className={styles.days}>
          {days.map((one) => (
            <li
              key={one.day.date}
              data-today={one.day.date === gym.today || undefined}
              data-over={over === one.day.date || undefined}
              draggable={Boolean(one.outline)}
              onDragStart={() => drag(one)}
              onDragEnd={() => {
                drag(null);
                setOver(null);
              }}
              onDragOver={(event) => {
                if (!dragged || one.outline) return;
                event.preventDefault();
                setOver(one.day.date);
              }}
              onDragLeave={() => setOver(null)}
              onDrop={(event) => {
                event.preventDefault();
                if (!one.outline) drop(one.day, event.ctrlKey || event.altKey);
              }}
            >
              <div className={styles.day}>
                {one.outline && (
                  <button
                    type="button"
                    className={styles.grip}
                    aria-label={`Move ${spoken(one.day.date)}: arrow up or down to the next free day, with Shift a copy`}
                    title="Drag to a free day, or press ↑ ↓; with Shift a copy"
                    onKeyDown={(event) => pressed(one, event)}
                  >
                    ⠿
                  </button>
                )}
                <b>{spoken(one.day.date)}</b>
                {one.closed && <span className={styles.state}>closed: {one.closed}</span>}
                {one.outline && (
                  <span className={styles.state}>{one.day.published ? "published" : "draft"}</span>
                )}
              </div>
              {one.outline ? (
                <>
                  <div className={styles.main}>
                    <Link to={`/day/${one.day.date}/write`} className={styles.title}>
                      {one.title || "Untitled"}
                    </Link>
                    <HourRuler outline={one.outline} of={spoken(one.day.date)} slim bare />
                  </div>
                  <Menu position="bottom-end">
                    <Menu.Target>
                      <Button
                        size="compact-sm"
                        variant="default"
                        aria-label={`Copy, save… ${spoken(one.day.date)}`}
                      >
                        Copy, save…
                      </Button>
                    </Menu.Target>
                    <Menu.Dropdown>
                      <Menu.Item onClick={() => publish(one.day, !one.day.published)}>
                        {one.day.published ? "Unpublish" : "Publish to athletes"}
                      </Menu.Item>
                      {targets(one).map((to) => (
                        <Menu.Item key={to.date} onClick={() => copy(one.day, to, false)}>
                          Copy to {spoken(to.date)}
                        </Menu.Item>
                      ))}
                      <Menu.Item onClick={() => setStepping(one.day)}>
                        Copy a week on, with steps
                      </Menu.Item>
                      {!bank.data?.some((board) => board.name === one.title) && (
                        <Menu.Item onClick={() => keep(one.day)}>Save this day</Menu.Item>
                      )}
                      {targets(one).map((to) => (
                        <Menu.Item
                          key={to.date}
                          onClick={() => copy(one.day, to, true, one.scored)}
                        >
                          Move {one.scored && "with its scores "}to {spoken(to.date)}
                        </Menu.Item>
                      ))}
                      <Menu.Item onClick={() => clear(one.day, one.scored)}>
                        Clear the day{one.scored && ", its scores set aside"}
                      </Menu.Item>
                    </Menu.Dropdown>
                  </Menu>
                </>
              ) : (
                <div className={`${styles.main} ${styles.free}`}>
                  <Link to={`/day/${one.day.date}/write`}>Write this day</Link>
                  {(bank.data?.length ?? 0) > 0 && (
                    <Menu position="bottom-start">
                      <Menu.Target>
                        <Button
                          size="compact-sm"
                          variant="default"
                          className="week-bank"
                          aria-label={`From saved workouts to ${spoken(one.day.date)}`}
                        >
                          From saved workouts
                        </Button>
                      </Menu.Target>
                      <Menu.Dropdown>
                        {bank.data?.map((board) => (
                          <Menu.Item key={board.id} onClick={() => place(board.id, one.day)}>
                            {board.name}{" "}
                            <small>
                              {board.held > 0 ? `held ${board.held} times` : "not held yet"}
                            </small>
                          </Menu.Item>
                        ))}
                      </Menu.Dropdown>
                    </Menu>
                  )}
                </div>
              )}
            </li>
          ))}
        </ol>
        {week.data && <Balance week={week.data} />}
        {week.data && <Cycles date={date} monday={week.data.monday} />}
        <Season date={date} />
      </div>
    </Frame>
  );
}
