// The standings of one piece: tier sections beside the strip of everyone's result.
import { SegmentedControl } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { sheet as sheetQuery } from "../../api/queries";
import { Empty, Waiting } from "../../parts/states";
import { Foretold } from "./Foretold";
import { Standings } from "./Standings";

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
  if (sheet.error) {
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
    <div className="compare">
      <div className="compare-head">
        <div>
          <h1>{piece.title}</h1>
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
            { label: "Both tracks", value: "all" },
            ...gym.tracks.map((label, value) => ({ label, value: String(value) })),
          ]}
        />
      </div>
      <Standings
        date={date}
        pieceKey={piece.key}
        gym={gym}
        track={track === "all" ? null : Number(track)}
      />
      <Foretold date={date} pieceKey={piece.key} />
    </div>
  );
}
