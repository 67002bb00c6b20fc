// Days as somebody names them.
import { at, shift } from "../ui/dates";

const WEEKDAYS = ["sunday", "monday", "tuesday", "wednesday", "thursday", "friday", "saturday"];
const MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec".split(" ");

/** The day that somebody names: `2026-11-24`, `24 nov`, `tue` (the next one), `tomorrow`; or null. */
export function dayNames(text: string, today: string): string | null {
  const said = text.trim().toLowerCase();
  const iso = /^\d{4}-\d{2}-\d{2}$/.exec(said);
  if (iso) return Number.isNaN(at(said).getTime()) || shift(said, 0) !== said ? null : said;
  const near: Record<string, number> = { yesterday: -1, today: 0, tomorrow: 1 };
  if (said in near) return shift(today, near[said] ?? 0);
  const weekday = said.length > 1 ? WEEKDAYS.findIndex((name) => name.startsWith(said)) : -1;
  if (weekday >= 0) return shift(today, (weekday - at(today).getDay() + 7) % 7);
  const dated = /^(\d{1,2})\.? ([a-z]{3})[a-z]*$|^([a-z]{3})[a-z]* (\d{1,2})$/.exec(said);
  if (!dated) return null;
  const month = MONTHS.indexOf(dated[2] ?? dated[3] ?? "") + 1;
  if (month === 0) return null;
  const two = (n: number) => String(n).padStart(2, "0");
  // The year whose such day is nearest.
  const year = Number(today.slice(0, 4));
  const found = [year - 1, year, year + 1]
    .map((one) => `${one}-${two(month)}-${two(Number(dated[1] ?? dated[4]))}`)
    .filter((one) => shift(one, 0) === one);
  const away = (one: string) => Math.abs(at(one).getTime() - at(today).getTime());
  return found.sort((a, b) => away(a) - away(b))[0] ?? null;
}
