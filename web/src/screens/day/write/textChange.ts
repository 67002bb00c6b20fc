// What makes one text of another, as one change: the cursor and what was undone stay where they are.

/** The smallest single replacement that turns `before` into `after`. */
export function textChange(before: string, after: string) {
  const shorter = Math.min(before.length, after.length);
  let from = 0;
  while (from < shorter && before[from] === after[from]) from += 1;
  let tail = 0;
  while (tail < shorter - from && before.at(-1 - tail) === after.at(-1 - tail)) tail += 1;
  return { from, to: before.length - tail, insert: after.slice(from, after.length - tail) };
}
