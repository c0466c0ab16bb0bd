import type { Place, PolicyPerson } from '@/core/access';
import { emptyPlan, emptyRole, type Plan, type PlanRole } from '@/core/plan';

/** Small invented plans for the tests of the core. */
export const role = (id: string, more: Partial<PlanRole> = {}): PlanRole => ({
  ...emptyRole(),
  id,
  name: id,
  purpose: '',
  ...more,
});
export const allow = (
  permission: string,
  scope: PlanRole['grants'][number]['scope'] = {},
): PlanRole['grants'][number] => ({
  id: `a-${permission.replace('*', 'all')}-${Object.keys(scope).join('-') || 'all'}`,
  effect: 'allow',
  permission,
  scope,
});
export const deny = (
  permission: string,
  scope: PlanRole['grants'][number]['scope'] = {},
): PlanRole['grants'][number] => ({
  ...allow(permission, scope),
  id: `d-${permission.replace('*', 'all')}`,
  effect: 'deny',
});
export const keyholder = role('keyholder', { grants: [allow('*')] });
export const plan = (...roles: PlanRole[]): Plan => ({ ...emptyPlan(), roles: [keyholder, ...roles] });
/** The same with roles that have some tools everywhere. */
export const withTools = (made: Plan, tools: Record<string, string[]>): Plan => ({
  ...made,
  toolbars: {
    sets: Object.entries(tools).map(([id, add]) => ({ id, name: id, add, take: [] })),
    rules: Object.keys(tools).map((id) => ({ id, when: { roles: [id] }, then: { use: id } })),
  },
});
export const person = (id: string, ...assignments: PolicyPerson['assignments'][number][]): PolicyPerson => ({
  id,
  name: id,
  assignments,
});

/** 1 ─ 2 ─ 3, and 1 ─ 4. */
export const PLACES: Record<'root' | 'harbours' | 'quay' | 'cafe', Place> = {
  root: { path: ['1'], layout: 'banner', state: 'published', author: 'maud' },
  harbours: { path: ['1', '2'], layout: 'banner', state: 'published', author: 'maud' },
  quay: { path: ['1', '2', '3'], layout: 'harbour', state: 'draft', author: 'ines' },
  cafe: { path: ['1', '4'], layout: 'plain', state: 'published', author: 'oskar' },
};
