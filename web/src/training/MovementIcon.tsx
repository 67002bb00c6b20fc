// A movement pattern as a few strokes: a figure made of lines, drawn for this program.
const FIGURES: Record<string, string> = {
  squat: "M16 7v5l-5 5 7 3-3 7M16 12l8 2M11 27h7",
  hinge: "M24 11l-11 3-1 6 3 7M24 11l-2 8M12 27h6",
  lunge: "M15 8v8l-7 4v7M15 16l8 3v8M5 27h6M21 27h5",
  press: "M16 13v8l-4 7M16 21l4 7M16 13l-6-3V4M16 13l6-3V4M6 4h20",
  pull: "M5 4h22M11 4l5 9 5-9M16 13v8l-4 6M16 21l4 6",
  carry: "M16 9v10l-4 8M16 19l5 8M16 11l-6 6v4M16 11l6 6v4M8 21h4M20 21h4",
  brace: "M5 22l18-6M23 16v8M5 22l-1 4M23 16l3-3",
  jump: "M16 8v7l-4 6M16 15l4 6M16 9l-6-4M16 9l6-4M9 28h14",
  engine: "M13 9l5 6-3 6-6 3M18 15l4 4-1 7M14 10l-5 4M15 10l7 1",
  mobility: "M7 24h6l4-7 8 4M13 24l2-10",
  rest: "M8 9v16M8 19h17v6M12 19v-4h9v4",
};
const HEADS: Record<string, [number, number]> = {
  squat: [16, 4],
  hinge: [27, 9],
  lunge: [15, 5],
  press: [16, 9],
  pull: [16, 9],
  carry: [16, 5],
  brace: [27, 11],
  jump: [16, 4],
  engine: [11, 6],
  mobility: [15, 11],
};

export function MovementIcon({ pattern, size = 32 }: { pattern: string; size?: number }) {
  const head = HEADS[pattern];
  return (
    <svg viewBox="0 0 32 32" width={size} height={size} role="img" aria-label={pattern}>
      <path
        d={FIGURES[pattern] ?? FIGURES.engine}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
      {head && <circle cx={head[0]} cy={head[1]} r="2.4" fill="currentColor" />}
    </svg>
  );
}
