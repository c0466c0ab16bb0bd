/**
 * Whether two values are the same as JSON: keys in any order, undefined members as if they were not there. The same as
 * comparing their `canonical` forms, and much faster of long texts that differ early or not at all.
 */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return (a ?? null) === (b ?? null);
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => sameJson(one, b[i]));
  const [one, other] = [a, b] as Record<string, unknown>[];
  const has = (object: Record<string, unknown> | undefined, key: string) =>
    object !== undefined && Object.hasOwn(object, key) && object[key] !== undefined;
  for (const key in one) if (has(one, key) && !(has(other, key) && sameJson(one[key], other?.[key]))) return false;
  for (const key in other) if (has(other, key) && !has(one, key)) return false;
  return true;
}
