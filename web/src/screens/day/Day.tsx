// One day and its steps; the hour ruler on top is the way from piece to piece.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useState } from "react";
import { Navigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useLive } from "../../api/live";
import { day as dayQuery, preview } from "../../api/queries";
import { Frame, type Step } from "../../app/Frame";
import { HourRuler } from "../../training/HourRuler";
import { Failed, Waiting } from "../../ui/states";
import styles from "./Day.module.css";

const Write = lazy(() => import("./write/Write").then((m) => ({ default: m.Write })));

const Scale = lazy(() => import("./scale/Scale").then((m) => ({ default: m.Scale })));
const Score = lazy(() => import("./score/Score").then((m) => ({ default: m.Score })));
const Compare = lazy(() => import("./compare/Compare").then((m) => ({ default: m.Compare })));
const Run = lazy(() => import("./run/Run").then((m) => ({ default: m.Run })));

const isStep = (text?: string): text is Step =>
  text === "write" || text === "scale" || text === "run" || text === "score" || text === "compare";

/** Steps that read what they show themselves, and say so where that fails. */
const READS_ITSELF: ReadonlySet<string> = new Set(["score", "compare"]);

export function Day({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const { date = gym.today, step } = useParams();
  const [search, setSearch] = useSearchParams();
  // The text as typed on this day; until something is typed, the saved one stands.
  const [typed, setTyped] = useState<{ date: string; text: string } | null>(null);
  const type = useCallback((text: string) => setTyped({ date, text }), [date]);
  const saved = useQuery(dayQuery(date));
  // What was kept on this device may be older than the server's: it is opened only without network.
  const asked = saved.isFetchedAfterMount || saved.fetchStatus === "paused";
  const text = (typed?.date === date ? typed.text : undefined) ?? saved.data?.text ?? "";
  const plan = useQuery({ ...preview(date, text, 0, null), enabled: Boolean(saved.data) });
  const client = useQueryClient();
  // Somebody else may have saved the board. In Write its text alone is read anew: the rest follows.
  const changed = () =>
    client.invalidateQueries({ queryKey: step === "write" ? keys.text(date) : keys.day(date) });
  useLive("/api/live", {
    day: (said) => said.date === date && changed(),
    again: changed,
  });
  if (!isStep(step) || !/^\d{4}-\d\d-\d\d$/.test(date)) {
    return <Navigate to={`/day/${gym.today}/write`} replace />;
  }
  const select = (key: string) =>
    setSearch(
      (now) => {
        now.set("piece", key);
        return now;
      },
      { replace: true },
    );
  const selected = search.get("piece");
  const onFloor = step === "run" && search.has("floor");
  return (
    <Frame
      me={me}
      gymName={gym.name}
      today={gym.today}
      date={date}
      step={step}
      title={plan.data?.title}
      bare={onFloor}
    >
      {plan.data && !onFloor && (
        <>
          <HourRuler outline={plan.data.outline} selected={selected} onSelect={select} />
          <p className={`${styles.rulerSum} num`}>
            {saved.data?.closed && (
              <>
                <b>Closed: {saved.data.closed}.</b>{" "}
              </>
            )}
            {plan.data.outline.sentence}
            {saved.data?.theme && (
              <>
                {" "}
                <b>This week:</b> {saved.data.theme}
              </>
            )}
          </p>
        </>
      )}
      {saved.error && !READS_ITSELF.has(step) && (
        <Failed error={saved.error} retry={() => saved.refetch()} />
      )}
      {plan.error && !plan.data && <Failed error={plan.error} retry={() => plan.refetch()} />}
      {(step === "scale" || step === "run") && !plan.data && !saved.error && !plan.error && (
        <Waiting what="Reading the board" />
      )}
      <Suspense fallback={<Waiting what="Opening" />}>
        {step === "write" && !asked && <Waiting what="Opening the board" />}
        {step === "write" && saved.data && asked && (
          <Write
            key={date}
            date={date}
            gym={gym}
            saved={saved.data}
            selected={selected}
            onType={type}
          />
        )}
        {step === "scale" && plan.data && (
          <Scale
            key={date}
            date={date}
            gym={gym}
            text={text}
            pieces={plan.data.outline.pieces}
            selected={selected}
          />
        )}
        {step === "run" && plan.data && (
          <Run
            key={date}
            date={date}
            pieces={plan.data.outline.pieces}
            selected={selected}
            onSelect={select}
          />
        )}
        {step === "score" && <Score key={date} date={date} gym={gym} selected={selected} />}
        {step === "compare" && (
          <Compare key={date} date={date} gym={gym} selected={selected} onSelect={select} />
        )}
      </Suspense>
    </Frame>
  );
}
