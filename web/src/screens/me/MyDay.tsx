// The day on an athlete's phone: my version, my score, my place.
import { Button, NativeSelect } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useLive } from "../../api/live";
import { myDay } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Piece } from "../../training/Board";
import boardStyles from "../../training/Board.module.css";
import { HourRuler } from "../../training/HourRuler";
import { ShowingContext, type Shows } from "../../training/movementDetail";
import { shift } from "../../ui/dates";
import { Empty, Failed, Waiting } from "../../ui/states";
import { useSwipe } from "../../ui/swipe";
import wordStyles from "../../ui/words.module.css";
import styles from "./MyDay.module.css";

// Beside the day itself: it comes after it, or with a press.
const Effort = lazy(() => import("./AfterClass").then((m) => ({ default: m.Effort })));
const Log = lazy(() => import("./Log").then((m) => ({ default: m.Log })));
const MyClass = lazy(() => import("./MyClass").then((m) => ({ default: m.MyClass })));
const MyHeart = lazy(() => import("./MyHeart").then((m) => ({ default: m.MyHeart })));
const ClassClock = lazy(() => import("./ClassClock").then((m) => ({ default: m.ClassClock })));
const Standings = lazy(() =>
  import("../../training/Standings").then((m) => ({ default: m.Standings })),
);
const MovementPanel = lazy(() =>
  import("../../training/MovementPanel").then((m) => ({ default: m.MovementPanel })),
);
const Messages = lazy(() => import("./Messages").then((m) => ({ default: m.Messages })));

export function MyDay({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const { date = gym.today } = useParams();
  const [tier, setTier] = useState<number>();
  const [track, setTrack] = useState<number>();
  const [open, setOpen] = useState<string | null>(null);
  const [shown, show] = useState<Shows | null>(null);
  const showing = useMemo(() => ({ press: show }), []);
  const [home, setHome] = useState(false);
  const [picking, setPicking] = useState(false);
  const day = useQuery(myDay(date, tier, track, home));
  const client = useQueryClient();
  const navigate = useNavigate();
  useSwipe((days) => navigate(`/me/${shift(date, days)}`));
  const changed = () => client.invalidateQueries({ queryKey: keys.day(date) });
  useLive("/api/live", {
    day: (said) => said.date === date && changed(),
    again: changed,
  });
  const found = day.data;
  const ahead = date >= gym.today && me.trains;
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} date={date} title={found?.view.title}>
      {day.error && <Failed error={day.error} retry={() => day.refetch()} />}
      {day.isPending && <Waiting />}
      {found && !found.written && (
        <div className={styles.mine}>
          {ahead && (
            <Suspense>
              <MyClass date={date} today={date === gym.today} />
            </Suspense>
          )}
          <Empty>
            <p>The coach has not written this day yet.</p>
          </Empty>
        </div>
      )}
      {found?.written && (
        <>
          <HourRuler
            outline={found.outline}
            slim
            onSelect={(key) => document.getElementById(key)?.scrollIntoView({ behavior: "smooth" })}
          />
          <div className={styles.mine}>
            <Suspense>
              <Messages date={date} />
              {date === gym.today && <ClassClock />}
            </Suspense>
            {ahead && (
              // The place of the card is kept while it loads, so that the workout stays put.
              <Suspense fallback={<div className={styles.classToCome} />}>
                <MyClass date={date} today={date === gym.today} />
              </Suspense>
            )}
            <button
              type="button"
              className={styles.version}
              aria-expanded={picking}
              onClick={() => setPicking(!picking)}
            >
              <span>
                {[gym.tiers[found.tier], gym.tracks[found.track], home && "at home"]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
              <u>{picking ? "Close" : "Change"}</u>
            </button>
            {picking && (
              <div className={styles.pick}>
                <NativeSelect
                  label="My tier"
                  value={String(found.tier)}
                  onChange={(event) => setTier(Number(event.currentTarget.value))}
                  data={gym.tiers.map((label, value) => ({ label, value: String(value) }))}
                />
                <NativeSelect
                  label="My track"
                  value={String(found.track)}
                  onChange={(event) => setTrack(Number(event.currentTarget.value))}
                  data={gym.tracks.map((label, value) => ({ label, value: String(value) }))}
                />
                <Button
                  className={styles.home}
                  variant={home ? "filled" : "default"}
                  aria-pressed={home}
                  onClick={() => setHome(!home)}
                >
                  At home, with my own kit
                </Button>
              </div>
            )}
            <Suspense>{date === gym.today && found.strap !== null && <MyHeart />}</Suspense>
            <h2 className={styles.title}>{found.view.title || "Session"}</h2>
            {found.theme && (
              <p className={boardStyles.pieceNote}>
                <b>This week:</b> {found.theme}
              </p>
            )}
            {found.view.note && <p className={boardStyles.pieceNote}>{found.view.note}</p>}
            <ShowingContext value={showing}>
              {found.view.pieces.map((piece) => {
                const scored = found.pieces.find((one) => one.key === piece.key);
                return (
                  <div id={piece.key} key={piece.key}>
                    <Piece piece={piece}>
                      {found.plans?.[piece.key] &&
                        !found.scores.some((score) => score.piece_key === piece.key) && (
                          <p className={styles.heart}>
                            <b>Pace plan</b> {found.plans[piece.key]}
                          </p>
                        )}
                      {found.hearts[piece.key] && (
                        <p className={styles.heart}>
                          <b>Heart</b> {found.hearts[piece.key]?.words}
                          {found.heart_times[piece.key] && (
                            <>. You were {found.heart_times[piece.key]?.words}</>
                          )}
                        </p>
                      )}
                      {scored && date <= gym.today && (
                        <>
                          <Suspense>
                            <Log
                              date={date}
                              piece={scored}
                              tier={found.tier}
                              track={found.track}
                              tiers={gym.tiers}
                              me={me.id}
                              kept={found.scores.find((score) => score.piece_key === piece.key)}
                            />
                          </Suspense>
                          <Button
                            variant="subtle"
                            aria-expanded={open === piece.key}
                            onClick={() => setOpen(open === piece.key ? null : piece.key)}
                          >
                            {open === piece.key ? "Hide everyone" : "See everyone"}
                          </Button>
                          {open === piece.key && (
                            <Suspense>
                              <Standings
                                date={date}
                                pieceKey={piece.key}
                                gym={gym}
                                filter={{}}
                                mine={me.id}
                              />
                            </Suspense>
                          )}
                        </>
                      )}
                    </Piece>
                  </div>
                );
              })}
            </ShowingContext>
            {shown && (
              <Suspense>
                <MovementPanel shows={shown} onClose={() => show(null)} />
              </Suspense>
            )}
            <Suspense>
              {date <= gym.today && <Effort date={date} minutes={gym.class_min} />}
            </Suspense>
            <aside className={wordStyles.safety} aria-label="Safety">
              <p>
                <b>{found.view.pain}</b>
              </p>
              <p>{found.view.readiness}</p>
            </aside>
          </div>
        </>
      )}
    </Frame>
  );
}
