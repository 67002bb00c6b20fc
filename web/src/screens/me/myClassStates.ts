// My place in a class, and the class of a day that is mine.

export type MyStand = "checked in" | "booked" | "waiting" | "free" | "full" | "over" | "cancelled";

export type ClassPlaces = {
  start: string;
  size: number;
  coming: number;
  mine: "no" | "coming" | "waiting";
  cancelled: boolean;
  over: boolean;
};

/** My place in a class; a class that has begun can still be checked in to. */
export function standOf(one: ClassPlaces, checkedIn: boolean): MyStand {
  if (one.cancelled) return "cancelled";
  if (checkedIn) return "checked in";
  if (one.mine === "coming") return "booked";
  if (one.over) return "over";
  if (one.mine === "waiting") return "waiting";
  return one.coming >= one.size ? "full" : "free";
}

const ORDER: readonly MyStand[] = ["checked in", "booked", "waiting", "free", "full", "over"];

/** The class of a day that concerns me most: mine, then the next with a free place. */
export function mineOf<T extends { stand: MyStand }>(classes: readonly T[]): T | undefined {
  for (const stand of ORDER) {
    const found = classes.find((one) => one.stand === stand);
    if (found) return found;
  }
  return classes[0];
}

const RULES = new Intl.PluralRules("en-GB", { type: "ordinal" });
const ENDINGS: Record<string, string> = { one: "st", two: "nd", few: "rd", other: "th" };

/** 1st, 2nd, 3rd, 11th. */
export const ordinal = (number: number): string => `${number}${ENDINGS[RULES.select(number)]}`;
