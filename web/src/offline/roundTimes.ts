// Reading what is jotted without network, as the core reads it (tested against its vectors).

/** A number as jotted in a unit: plain, or minutes:seconds where seconds are noted. */
export function numberOf(text: string, unit: "reps" | "s" | "kg"): number | null {
  const typed = text.trim();
  if (unit === "s") {
    const time = /^(\d{1,3})[:.](\d\d)$/.exec(typed);
    if (time) return Number(time[2]) < 60 ? Number(time[1]) * 60 + Number(time[2]) : null;
    return /^\d{1,5}$/.test(typed) ? Number(typed) : null;
  }
  if (unit === "reps") return /^\d{1,5}$/.test(typed) ? Number(typed) : null;
  return /^\d{1,4}([.,]\d{1,2})?$/.test(typed) ? Number(typed.replace(",", ".")) : null;
}

/** The first place from 1 that holds no note; null where the strip is full. */
export function nextPlace(
  strip: { more: boolean; labels: readonly string[] },
  rounds: Record<number, number | null>,
): number | null {
  let place = 1;
  while (rounds[place] !== undefined && rounds[place] !== null) place += 1;
  return strip.more || place <= strip.labels.length ? place : null;
}
