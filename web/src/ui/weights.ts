// Loads as people say them. They are kept in kilograms, whatever they are typed in.
import type { Schemas } from "../api/client";

export type Weight = NonNullable<Schemas["Settings"]["unit"]>;

const KG_IN_LB = 0.45359237;

const rounded = (value: number, places: number) => Math.round(value * 10 ** places) / 10 ** places;

/** What is kept, as it is shown: pounds to a tenth. */
export function shownWeight(kg: number, unit: Weight): number {
  return unit === "kg" ? kg : rounded(kg / KG_IN_LB, 1);
}

/** What was typed, as it is kept: fine enough that the same number is shown again. */
export function keptWeight(typed: number, unit: Weight): number {
  return unit === "kg" ? typed : rounded(typed * KG_IN_LB, 3);
}
