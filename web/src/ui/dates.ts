// Dates as a gym says them. Dates travel as ISO text and are never shifted by a time zone.
export const at = (iso: string) => new Date(`${iso}T12:00:00`);

export function shift(iso: string, days: number): string {
  const date = at(iso);
  date.setDate(date.getDate() + days);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

const DAY_MS = 86_400_000;
/** Days from today on which a date without its year may be taken for another one. */
const FAR_DAYS = 183;
const year = (iso: string, now: number) =>
  Math.abs(at(iso).getTime() - now) > FAR_DAYS * DAY_MS ? ({ year: "numeric" } as const) : {};

function inWords(iso: string, month: "long" | "short", now: number): string {
  const words = at(iso).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    month,
    ...year(iso, now),
  });
  return words.replace(",", "");
}

/** A date in words, with its year where that is not the one nearest to `now`. */
export function spoken(iso: string, now = Date.now()): string {
  return inWords(iso, "long", now);
}

/** The same where there is little room: "Tue 24 Nov". */
export function brief(iso: string, now = Date.now()): string {
  return inWords(iso, "short", now);
}

export function clockTime(moment: string | number): string {
  return new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

export function minutes(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** Days since the epoch, for an axis of dates; and back. */
export const dayNumber = (iso: string) => Math.round(Date.parse(iso) / DAY_MS);
export const dayAt = (days: number) => new Date(days * DAY_MS).toISOString().slice(0, 10);

/** The days of the week from Monday on. */
export const WEEKDAYS = [
  "Monday",
  "Tuesday",
  "Wednesday",
  "Thursday",
  "Friday",
  "Saturday",
  "Sunday",
];
