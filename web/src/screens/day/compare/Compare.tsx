// The standings of one piece: tier sections beside the strip of everyone's result.
import { SegmentedControl, Select } from "@mantine/core";
import { useSessionStorage } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { useLive } from "../../../api/live";
import { type Filter, floor as floorQuery, sheet as sheetQuery } from "../../../api/queries";
import { Standings } from "../../../training/Standings";
import { TellClass } from "../../../training/TellClass";
import fieldStyles from "../../../ui/fields.module.css";
import { Empty, Failed, Waiting } from "../../../ui/states";
import { AthleteThroughDay } from "./AthleteThroughDay";
import styles from "./Compare.module.css";
import { NextTime } from "./NextTime";
import { PredictedVsActual } from "./PredictedVsActual";
import { Retests } from "./Retests";
import { Rounds } from "./Rounds";

type School = NonNullable<NonNullable<Filter>["school"]>;
type Age = NonNullable<NonNullable<Filter>["age"]>;

export function Compare({
  date,
  gym,
  selected,
  onSelect,
}: {
  date: string;
  gym: Schemas["GymOut"];
  selected: string | null;
  onSelect: (key: string) => void;
}) {
  const sheet = useQuery(sheetQuery(date));
  const [track, setTrack] = useState("all");
  const [more, setMore] = useState<Filter>({});
  // Whoever is followed stays so from piece to piece and from day to day.
  const [followed, follow] = useSessionStorage<number | null>({
    key: "pine-followed",
    defaultValue: null,
  });
  const held = useQuery(floorQuery(date));
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: keys.scores(date) });
  useLive("/api/live", {
    score: (said) => said.date === date && again(),
    again,
  });
  if (sheet.error && !sheet.data) {
    if (sheet.error.status !== 404) {
      return <Failed error={sheet.error} retry={() => sheet.refetch()} />;
    }
    return (
      <Empty>
        <p>No session is written for this day, so there is nothing to compare.</p>
      </Empty>
    );
  }
  if (!sheet.data) return <Waiting />;
  const scored = sheet.data.pieces;
  const piece = scored.find((one) => one.key === selected) ?? scored.at(-1);
  if (!piece) {
    return (
      <Empty>
        <p>No piece of this day keeps a score.</p>
      </Empty>
    );
  }
  return (
    <div className={styles.compare}>
      <div className={styles.head}>
        <div>
          <h2>{piece.title}</h2>
          <p className="num">
            {piece.format} · by {piece.kind}
          </p>
        </div>
        {scored.length > 1 && (
          <SegmentedControl
            aria-label="Piece"
            value={piece.key}
            onChange={onSelect}
            data={scored.map((one) => ({ label: one.title, value: one.key }))}
          />
        )}
        <SegmentedControl
          aria-label="Track"
          value={track}
          onChange={setTrack}
          data={[
            { label: gym.tracks.length > 2 ? "All tracks" : "Both tracks", value: "all" },
            ...gym.tracks.map((label, value) => ({ label, value: String(value) })),
          ]}
        />
        <TellClass date={date} />
      </div>
      <NextTime date={date} piece={piece.key} />
      <details className="filters">
        <summary>Filters</summary>
        <div className={fieldStyles.runHead}>
          <Select
            label="Tiers rank"
            placeholder="as the gym has it"
            clearable
            data={["tiers apart", "tier order", "total work"]}
            value={more?.school ?? null}
            onChange={(value) => setMore({ ...more, school: (value as School) ?? undefined })}
          />
          <Select
            label="Tier"
            placeholder="all"
            clearable
            data={gym.tiers.map((label, value) => ({ label, value: String(value) }))}
            value={more?.tier == null ? null : String(more.tier)}
            onChange={(value) => setMore({ ...more, tier: value ? Number(value) : undefined })}
          />
          <Select
            label="Age"
            placeholder="all"
            clearable
            data={["under 35", "35 to 49", "50 and over"]}
            value={more?.age ?? null}
            onChange={(value) => setMore({ ...more, age: (value as Age) ?? undefined })}
          />
          <Select
            label="Class"
            placeholder="all"
            clearable
            data={(held.data?.classes ?? [])
              .filter((one) => one.id)
              .map((one) => ({
                label: one.start.slice(0, 5),
                value: String(one.id),
              }))}
            value={more?.class_id == null ? null : String(more.class_id)}
            onChange={(value) => setMore({ ...more, class_id: value ? Number(value) : undefined })}
          />
        </div>
      </details>
      {followed !== null && (
        <AthleteThroughDay
          athlete={followed}
          date={date}
          piece={piece}
          onPiece={onSelect}
          onEnd={() => follow(null)}
        />
      )}
      <Standings
        date={date}
        pieceKey={piece.key}
        gym={gym}
        mine={followed ?? undefined}
        onFollow={(id) => follow(id === followed ? null : id)}
        filter={{ ...more, track: track === "all" ? null : Number(track) }}
      />
      <div className={styles.more}>
        <Rounds date={date} pieceKey={piece.key} />
        <div>
          <Retests date={date} pieceKey={piece.key} />
          <PredictedVsActual date={date} pieceKey={piece.key} />
        </div>
      </div>
    </div>
  );
}
