/**
 * JSON with the keys of every object in order, so that equal values give equal text whatever order their keys came
 * in (PostgreSQL's jsonb keeps an order of its own). After RFC 8785, section 3.2.3, for the values used here.
 * Undefined members are left out, as in JSON.
 */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (value !== null && typeof value === 'object')
    return `{${Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => `${JSON.stringify(k)}:${canonical(v)}`)
      .join(',')}}`;
  return JSON.stringify(value) ?? 'null';
}
