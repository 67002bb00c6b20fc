// A task tier by tier, as differences: what a lower tier leaves empty is as above.
import type { Schemas } from "../../../api/client";

type Version = Schemas["VersionForm"];

const NOTHING = "none";
const FIELDS = ["amount", "movement", "load", "detail"] as const;
const REST = ["instead", "note"] as const;
export type Said = Record<(typeof FIELDS)[number] | (typeof REST)[number], string>;
const BLANK: Said = { amount: "", movement: "", load: "", detail: "", instead: "", note: "" };

/** A version as it is said in the table's cells. */
const inCells = (version: Version): Said => ({
  amount: version.amount ?? "",
  movement: version.movement,
  load: version.load ?? "",
  detail: [version.side, version.tempo && `tempo ${version.tempo}`, version.details]
    .filter(Boolean)
    .join(", "),
  instead: version.instead ?? "",
  note: version.note ?? "",
});

/** What each tier does in full: an empty cell is as in the tier above, as long as the movement is
 * the same; "none" takes away what stands above.
 */
export function inFull(said: readonly Said[]): Said[] {
  const all: Said[] = [];
  for (const own of said) {
    const above = all.at(-1) ?? BLANK;
    const moved = own.movement.trim() !== "" && own.movement.trim() !== above.movement.trim();
    const from = (field: keyof Said, stays: boolean) => {
      const cell = own[field].trim();
      return cell.toLowerCase() === NOTHING ? "" : cell || (stays ? above[field] : "");
    };
    all.push({
      amount: from("amount", true),
      movement: from("movement", true),
      load: from("load", !moved),
      detail: from("detail", !moved),
      instead: from("instead", !moved),
      note: from("note", false),
    });
  }
  return all;
}

/** Full versions as the differences that the table shows, a row for each of the gym's tiers. */
export function differences(versions: readonly Version[], tiers: number): Said[] {
  const full = versions.map(inCells);
  const rows = Array.from({ length: Math.max(tiers, full.length) }, (_, tier) => {
    const [own, above] = [full[tier], full[tier - 1]];
    if (!own || !above) return own ?? BLANK;
    const moved = own.movement !== above.movement;
    const cell = (field: keyof Said, stays: boolean) =>
      stays ? (own[field] === above[field] ? "" : own[field] || NOTHING) : own[field];
    return {
      amount: cell("amount", true),
      movement: moved ? own.movement : "",
      load: cell("load", !moved),
      detail: cell("detail", !moved),
      instead: cell("instead", !moved),
      note: own.note,
    };
  });
  return rows;
}

/** The versions to write: down to the last tier that says anything of its own. */
export function versionsOf(said: readonly Said[]): Version[] {
  const last = said.findLastIndex((row) => Object.values(row).some((cell) => cell.trim()));
  return inFull(said.slice(0, Math.max(1, last + 1))).map(({ detail, ...own }) => ({
    ...own,
    side: null,
    tempo: "",
    details: detail,
  }));
}
