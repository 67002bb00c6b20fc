// A figure as lines: from the joints of a moment to paths, the same for playing and for standing.
import type { Schemas } from "../api/client";

export type Cycle = Schemas["Cycle"];
export type Moment = Schemas["PoseFrame"];
export type Thing = Schemas["Thing"];
type View = Cycle["view"];
type Point = readonly [number, number];

/** Weights of the lines, in centimetres. */
const WIDTHS = { trunk: 15, thigh: 10.5, shank: 8, foot: 6, upper: 7.5, fore: 6 };
const FAR = 0.8;
export const HEAD = 10.5;
/** From the wrist to the palm, and from the ankle to the heel, as shares of what is told. */
const PALM = 0.37;

export type Stroke = { id: string; d: string; width: number; far: boolean; edge?: boolean };

const cm = ([x, y]: Point) => `${(x * 100).toFixed(1)} ${(-y * 100).toFixed(1)}`;
const path = (...points: Point[]) => `M${points.map(cm).join(" L")}`;
const middle = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];

/** A point of a moment; a joint that is not told is where the head is. */
function joint(at: Moment["joints"], name: string): Point {
  const found = at[name] ?? at.head;
  return [found?.[0] ?? 0, found?.[1] ?? 0];
}

/** The heel of a stiff foot: a quarter of it is behind the ankle. */
function heel(ankle: Point, toe: Point): Point {
  const [x, y] = [toe[0] - ankle[0], toe[1] - ankle[1]];
  // What turns the flat foot's toe (0.1995, -0.068) into its heel (-0.0665, -0.068).
  const [re, im] = [-0.194, -0.407];
  return [ankle[0] + x * re - y * im, ankle[1] + x * im + y * re];
}

function limbs(at: Moment["joints"], view: View, side: "left" | "right", far: boolean): Stroke[] {
  const of = (name: string) => joint(at, `${name}_${side}`);
  const [elbow, wrist, ankle, toe] = [of("elbow"), of("wrist"), of("ankle"), of("toe")];
  const hand: Point = [
    wrist[0] + (wrist[0] - elbow[0]) * PALM,
    wrist[1] + (wrist[1] - elbow[1]) * PALM,
  ];
  const back = view === "side" ? heel(ankle, toe) : ankle;
  const slim = far ? FAR : 1;
  const stroke = (id: string, width: number, ...points: Point[]): Stroke => ({
    id: `${id}-${side}`,
    d: path(...points),
    width: width * slim,
    far,
  });
  return [
    stroke("thigh", WIDTHS.thigh, of("hip"), of("knee")),
    stroke("shank", WIDTHS.shank, of("knee"), ankle),
    stroke("foot", WIDTHS.foot, back, toe),
    stroke("upper", WIDTHS.upper, of("shoulder"), elbow),
    stroke("fore", WIDTHS.fore, elbow, hand),
  ];
}

/** All lines of a body at a moment, in the order they are drawn. */
export function strokes(at: Moment["joints"], view: View): Stroke[] {
  const hips = middle(joint(at, "hip_left"), joint(at, "hip_right"));
  const shoulders = middle(joint(at, "shoulder_left"), joint(at, "shoulder_right"));
  const trunk: Stroke = { id: "trunk", d: path(hips, shoulders), width: WIDTHS.trunk, far: false };
  const right = limbs(at, view, "right", false);
  const left = limbs(at, view, "left", view === "side");
  if (view === "front") {
    const across = (id: string, name: string, width: number): Stroke => ({
      id,
      d: path(joint(at, `${name}_left`), joint(at, `${name}_right`)),
      width,
      far: false,
    });
    return [
      ...left.slice(0, 3),
      ...right.slice(0, 3),
      across("pelvis", "hip", WIDTHS.thigh),
      trunk,
      across("girdle", "shoulder", WIDTHS.upper),
      ...left.slice(3),
      ...right.slice(3),
    ];
  }
  const edge: Stroke = {
    id: "edge",
    d: path(joint(at, "shoulder_right"), joint(at, "elbow_right"), joint(at, "wrist_right")),
    width: 11,
    far: false,
    edge: true,
  };
  return [
    ...left.slice(3),
    ...left.slice(0, 3),
    trunk,
    ...right.slice(0, 3),
    edge,
    ...right.slice(3),
  ];
}

/** The moment of a cycle at a time in seconds: between two frames everything moves evenly. */
export function momentAt(cycle: Cycle, seconds: number): Moment {
  const { frames, cycle_s } = cycle;
  const t = cycle_s > 0 ? ((seconds % cycle_s) + cycle_s) % cycle_s : 0;
  let low = 0;
  let high = frames.length - 1;
  while (high - low > 1) {
    const half = (low + high) >> 1;
    if ((frames[half]?.t_s ?? 0) <= t) low = half;
    else high = half;
  }
  const [a, b] = [frames[low], frames[high]];
  if (!a || !b) throw new Error("a figure has frames");
  const share = b.t_s > a.t_s ? (t - a.t_s) / (b.t_s - a.t_s) : 0;
  const between = (one: Point, other: Point): [number, number] => [
    one[0] + (other[0] - one[0]) * share,
    one[1] + (other[1] - one[1]) * share,
  ];
  return {
    t_s: t,
    key: share === 0 ? a.key : null,
    joints: Object.fromEntries(
      Object.entries(a.joints).map(([name, point]) => [
        name,
        between(point as Point, (b.joints[name] ?? point) as Point),
      ]),
    ),
    objects: a.objects.map((thing, i) => ({
      ...thing,
      at: between(thing.at as Point, (b.objects[i]?.at ?? thing.at) as Point),
      angle: (thing.angle ?? 0) + turn((b.objects[i]?.angle ?? 0) - (thing.angle ?? 0)) * share,
    })),
  };
}

/** The short way around. */
const turn = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180;

/** The key poses in the order they come, each with its time. */
export function keyTimes(cycle: Cycle): { key: string; t_s: number }[] {
  return cycle.frames
    .slice(0, -1)
    .filter((frame) => frame.key !== null)
    .map((frame) => ({ key: frame.key ?? "", t_s: frame.t_s }));
}

/** The reach of what is drawn as a circle. */
const RADII: Record<string, number> = { bar: 0.23, plate: 0.2, ball: 0.17 };

function round({ kind, at: [x = 0, y = 0] }: Thing): Point[] {
  const r = RADII[kind] ?? 0;
  return [
    [x - r, y],
    [x + r, y + r],
  ];
}

/** The box that all of a motion stays in, as an SVG's view. */
export function boxOf(moments: readonly Moment[], scene: readonly Thing[]): string {
  const points: Point[] = moments.flatMap((each) => [
    ...(Object.values(each.joints) as Point[]),
    ...each.objects.flatMap((thing) => round(thing)),
  ]);
  for (const thing of scene) {
    const [x, y] = thing.at as Point;
    const [wide, high] = (thing.size ?? [0, 0]) as Point;
    if (thing.kind === "wall") points.push([x, Math.min(high, 1.9)]);
    else points.push([x - wide / 2, y], [x + wide / 2, y + high]);
  }
  const xs = points.map((point) => point[0]);
  const ys = points.map((point) => point[1]);
  const room = 0.13;
  const [left, right] = [Math.min(...xs) - room, Math.max(...xs) + room];
  const [low, high] = [Math.min(0, ...ys) - 0.05, Math.max(...ys) + room];
  const width = Math.max(right - left, 0.9);
  const from = (left + right - width) / 2;
  return [from * 100, -high * 100, width * 100, (high - low) * 100]
    .map((each) => each.toFixed(1))
    .join(" ");
}

/** A thing as a path and, where it is one, a circle; drawn in outline. */
export function outline(thing: Thing): { d?: string; r?: number; r2?: number } {
  const [x, y] = [thing.at[0] * 100, -thing.at[1] * 100];
  const [wide, high] = [(thing.size?.[0] ?? 0) * 100, (thing.size?.[1] ?? 0) * 100];
  const line = thing.to ? path(thing.at as Point, thing.to as Point) : undefined;
  switch (thing.kind) {
    case "bar":
      return { r: 22.5, r2: 2.5 };
    case "plate":
      return { r: 19, r2: 3 };
    case "ball":
      return { r: 16 };
    case "kettlebell":
      return {
        r: 9,
        d: `M${x - 6} ${y - 8} C${x - 7} ${y - 20} ${x + 7} ${y - 20} ${x + 6} ${y - 8}`,
      };
    case "wheel":
    case "roller":
      return { r: 7 };
    case "ring":
      return { r: 6, d: line };
    case "pipe":
    case "handle":
    case "rail":
      return { r: 2.5, d: line };
    case "dumbbell":
      return { d: `M${x - 11} ${y - 4} h22 v8 h-22 z` };
    case "sandbag":
      return { d: `M${x - 12} ${y - 22} h24 v44 h-24 z` };
    case "rope":
      if (high) return { d: `M${x} ${y} v${-high}` };
      return { d: `M${x} ${y} c-40 30 -40 105 0 105 c40 0 40 -75 0 -105` };
    case "wall":
      return { d: `M${x} ${y} v${-high}` };
    case "bars":
      return { d: `M${x - 20} ${y} h40 M${x} ${y} V0` };
    case "box":
    case "bench":
    case "pad":
    case "sled":
    case "bike":
    case "rower":
      return { d: `M${x - wide / 2} ${y} v${-high} h${wide} v${high} z` };
    default:
      return line ? { d: line } : { r: 3 };
  }
}

/** What turns with the hands. */
export const turned = (thing: Thing) =>
  thing.kind === "dumbbell" || (thing.kind === "rope" && !thing.size)
    ? `rotate(${-(thing.angle ?? 0)} ${thing.at[0] * 100} ${-thing.at[1] * 100})`
    : undefined;
