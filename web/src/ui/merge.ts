// Two changes of one thing: what one did not touch is as the other has it.
type Value = unknown;

const isRecord = (value: Value): value is Record<string, Value> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

export const same = (a: Value, b: Value): boolean => {
  if (isRecord(a) && isRecord(b)) {
    const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
    return [...keys].every((key) => same(a[key], b[key]));
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    return a.length === b.length && a.every((one, at) => same(one, b[at]));
  }
  return Object.is(a ?? null, b ?? null);
};

/** `mine` and `theirs` both began as `base`: theirs, but for what I changed. Lists are one thing. */
export function merged<T>(base: T, mine: T, theirs: T): T {
  if (same(mine, base)) return theirs;
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) {
    const out: Record<string, Value> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = merged(base[key], mine[key], theirs[key]);
      if (value !== undefined) out[key] = value;
    }
    return out as T;
  }
  return mine;
}
