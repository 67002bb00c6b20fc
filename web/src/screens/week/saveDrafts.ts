// Drafts written on their days; a day that somebody else has written in the meantime is left alone.
import { api, ask, type Schemas } from "../../api/client";
import type { Texts } from "../../training/useDrafting";

const put = (date: string, text: string, version: number) =>
  ask(
    api.PUT("/api/days/{date}", {
      params: { path: { date } },
      body: { text, version, answers: [] },
    }),
  );

export interface Saved {
  saved: readonly Schemas["DayOut"][];
  /** Dates that were written already, which stay as they are. */
  skipped: readonly string[];
}

/** Write each text on its date, where the day is still empty. */
export async function saveDrafts(texts: Texts): Promise<Saved> {
  const saved: Schemas["DayOut"][] = [];
  const skipped: string[] = [];
  for (const [date, text] of Object.entries(texts)) {
    const day = await ask(api.GET("/api/days/{date}", { params: { path: { date } } }));
    if (day.text.trim()) skipped.push(date);
    else saved.push(await put(date, text, day.version));
  }
  return { saved, skipped };
}

/** Empty the days that drafts were written on, as long as nobody has changed them since. */
export async function removeDrafts(saved: Saved["saved"]): Promise<void> {
  for (const day of saved) await put(day.date, "", day.version);
}
