import { openBundle, type Bundle, type Opened } from '@/core/access';

/** Random numbers from a seed: mulberry32 (common practice, no source). */
export function randomFrom(seed: number) {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const below = (n: number) => Math.floor(next() * n);
  return {
    next,
    below,
    oneOf: <T>(list: readonly T[]): T => list[below(list.length)] as T,
    chance: (p: number) => next() < p,
  };
}
export type Random = ReturnType<typeof randomFrom>;

export const PERMISSIONS = ['page', 'notice', 'review', 'media', 'person'].flatMap((object) =>
  ['view', 'edit', 'send', 'publish', 'manage'].map((verb) => `${object}.${verb}`),
);
const PATTERNS = [...PERMISSIONS, 'page.*', 'notice.*', 'media.*', '*'];
export const LAYOUTS = ['plain', 'banner', 'harbour', 'list'];
export const STATES = ['draft', 'waiting', 'published', 'down'];
export const FIELDS = ['title', 'body', 'hours', 'banner'];
/** Instants of these worlds: the first hours of 2026. */
export const instant = (hour: number) => new Date(Date.UTC(2026, 0, 1, hour)).toISOString();
export const HOURS = 40;

export interface Size {
  roles: number;
  people: number;
  pages: number;
  /** Grants of a role, at most. */
  grants: number;
  /** Share of assignments with a beginning, and of those with an end. */
  timed?: number;
}

/** A random policy with its people and pages: everything the model has, and all of it sometimes combined. */
export function makeBundle(random: Random, size: Size): Bundle {
  const { below, oneOf, chance } = random;
  const { timed = 0.2 } = size;
  const page = () => `p${below(size.pages)}`;
  const pages = Array.from({ length: size.pages }, (_, i) => ({
    id: `p${i}`,
    parent: i === 0 ? null : `p${Math.max(0, below(i) - (chance(0.5) ? below(i) : 0))}`,
    layout: oneOf(LAYOUTS),
    state: oneOf(STATES),
    author: `u${below(size.people)}`,
  }));
  const some = (list: readonly string[]) => [...new Set([oneOf(list), oneOf(list)])];
  const roles = Array.from({ length: size.roles }, (_, i) => ({
    id: `r${i}`,
    name: `Role ${i}`,
    extends: i === 0 ? [] : [...new Set(Array.from({ length: chance(0.6) ? 1 + below(2) : 0 }, () => `r${below(i)}`))],
    grants: Array.from({ length: 1 + below(size.grants) }, () => {
      const effect = chance(0.22) ? ('deny' as const) : ('allow' as const);
      const permission = chance(0.04) ? '*' : chance(0.1) ? 'page.edit' : oneOf(PATTERNS);
      const scope = {
        ...(chance(0.4) && { branch: page(), ...(chance(0.25) && { only: true as const }) }),
        ...(chance(0.15) && { own: true as const }),
        ...(chance(0.15) && { layouts: some(LAYOUTS) }),
        ...(chance(0.15) && { states: some(STATES) }),
        ...(effect === 'allow' && permission === 'page.edit' && chance(0.6) && { fields: some(FIELDS) }),
      };
      return { effect, permission, scope };
    }),
  }));
  const people = Array.from({ length: size.people }, (_, i) => ({
    id: `u${i}`,
    ...(chance(0.04) && { suspended: true }),
    assignments: Array.from({ length: 1 + below(3) }, () => ({
      role: `r${below(size.roles)}`,
      ...(chance(0.4) && { branch: page() }),
      ...(chance(timed) && { from: instant(below(Math.floor(HOURS / 2))) }),
      ...(chance(timed) && { until: instant(Math.ceil(HOURS / 2) + below(Math.floor(HOURS / 2))) }),
    })),
  }));
  return { roles, people, pages, apart: [] };
}

export interface AskedOf {
  person: string;
  permission: string;
  page?: string;
  thing?: { kind: string; author?: string };
  field?: string;
  at: string;
  hour: number;
}
export function makeQuestion(random: Random, bundle: Bundle): AskedOf {
  const { below, oneOf, chance } = random;
  const hour = below(HOURS);
  const about = chance(0.8)
    ? { page: oneOf(bundle.pages).id }
    : { thing: { kind: 'picture', ...(chance(0.7) && { author: oneOf(bundle.people).id }) } };
  const permission = chance(0.1) ? 'page.edit' : oneOf(PERMISSIONS);
  return {
    person: oneOf(bundle.people).id,
    permission,
    ...about,
    ...(permission === 'page.edit' && chance(0.7) && { field: oneOf(FIELDS) }),
    at: instant(hour),
    hour,
  };
}

export function opened(bundle: Bundle): Extract<Opened, { ok: true }> {
  const result = openBundle(bundle);
  if (!result.ok) throw new Error(result.faults.map((f) => `${f.path}: ${f.message}`).join('\n'));
  return result;
}
