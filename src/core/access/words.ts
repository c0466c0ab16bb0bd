import { sayList } from '../words';
import type { Decision, PageState, Scope, Way } from './types';

/** What the sentences need to call things by name. Unknown ids are said as they are. */
export interface Names {
  role: (id: string) => string;
  page: (id: string) => string;
  /** "change pages" for `page.edit`. */
  doing: (permission: string) => string;
  /** "Harbour page" for `harbour`; the id itself when left out. */
  layout?: (id: string) => string;
  /** “Ticket office hours” for `hours`; the id itself when left out. */
  field?: (id: string) => string;
  /** "Maud Ellery": who can change what somebody may do. */
  keyholder: string;
}

const wayOf = (way: Way, names: Names) => {
  const held = names.role(way.roles[0] ?? '');
  const from = way.roles.length > 1 ? ` (from “${names.role(way.roles[way.roles.length - 1] ?? '')}”)` : '';
  return `${held}${from}`;
};

/** States of a page as a sentence has them: "pages that are drafts". */
export const STATE_WORDS: Record<PageState, string> = {
  draft: 'drafts',
  waiting: 'waiting for a second look',
  published: 'published',
  down: 'taken down',
};

/**
 * The parts of a scope as a sentence has them: "that are drafts", "under Harbours", "only their own work". None for
 * everywhere.
 */
export function scopeInWords(
  scope: Scope,
  pageName: (id: string) => string,
  { layout = (id) => id, field = (id) => id }: Pick<Names, 'layout' | 'field'> = {},
): string[] {
  return [
    scope.states && `that are ${scope.states.map((state) => STATE_WORDS[state]).join(' or ')}`,
    scope.layouts && `with layout ${scope.layouts.map(layout).join(' or ')}`,
    scope.branch !== undefined &&
      (scope.only ? `on ${pageName(scope.branch)} alone` : `under ${pageName(scope.branch)}`),
    scope.own && 'only their own work',
    scope.fields && `only ${sayList(scope.fields.map(field))} of them`,
  ].filter((part) => typeof part === 'string');
}

/** What somebody does with the scope it has: "change pages that are drafts, under Harbours". */
export function doingWithScope(
  doing: string,
  scope: Scope,
  pageName: (id: string) => string,
  names: Pick<Names, 'layout' | 'field'> = {},
): string {
  const parts = scopeInWords(scope, pageName, names);
  const isClose = scope.states !== undefined || scope.layouts !== undefined;
  return parts.length === 0 ? doing : `${doing}${isClose ? ' ' : ', '}${parts.join(', ')}`;
}

const quote = (name: ((id: string) => string) | undefined) => (id: string) => (name ? `“${name(id)}”` : id);
const quoted = ({ layout, field }: Names) => ({ layout: quote(layout), field: quote(field) });

const whereOf = (way: Way, names: Names) => {
  const limit =
    way.assignment.branch !== undefined && way.assignment.branch !== way.grant.scope.branch
      ? [`under ${names.page(way.assignment.branch)}`]
      : [];
  const parts = [...limit, ...scopeInWords(way.grant.scope, names.page, quoted(names))];
  return parts.length ? parts.join(', ') : 'on the whole site';
};

/** A decision as one sentence for the administrator: "Harbour desk may change pages, under Harbours." */
export function explainInWords(decision: Decision, permission: string, names: Names): string {
  const doing = names.doing(permission);
  const { decidedBy, nearest } = decision;
  if (decision.reason === 'audience') return 'The page’s own rights let them visit it.';
  if (decidedBy) return `${wayInWords(decidedBy, permission, names)}.`;
  if (decision.reason === 'second-person') return 'Nobody gives the second look to their own work.';
  if (decision.reason === 'suspended') return 'This person is suspended and can do nothing.';
  if (!nearest) return `No role of this person may ${doing}.`;
  const near = `${wayOf(nearest, names)} may ${doing}`;
  switch (nearest.missed) {
    case 'time':
      return `${near}, but the assignment is not in force at this time.`;
    case 'door-closed':
      return `${near}, but its door is closed.`;
    case 'door-look':
      return `${near}, but its door is set to look only.`;
    case 'branch':
    case 'assignment-branch':
      return `${near} ${whereOf(nearest, names)}, but this lies elsewhere.`;
    case 'own':
      return `${near}, but only on their own work.`;
    case 'layouts':
      return `${near}, but only on the layout ${nearest.grant.scope.layouts?.map(quoted(names).layout).join(' or ')}.`;
    case 'fields':
      return `${near}, but only ${sayList(nearest.grant.scope.fields?.map(quoted(names).field) ?? [])} of them.`;
    case 'states':
      return `${near}, but only on what is ${nearest.grant.scope.states?.map((state) => STATE_WORDS[state]).join(' or ')}.`;
  }
}

/** How a grant came to somebody: "Harbour desk, from Front line; may change pages, under Harbours". */
export function wayInWords(way: Way, permission: string, names: Names): string {
  return `${wayOf(way, names)} ${way.grant.effect === 'allow' ? 'may' : 'must not'} ${names.doing(permission)}, ${whereOf(way, names)}`;
}

/** A refusal as the person who was refused should read it: why, and whom to ask. */
export function refuseInWords(decision: Decision, permission: string, names: Names): string {
  const ask = `Ask ${names.keyholder} if you need to.`;
  const doing = names.doing(permission);
  if (decision.reason === 'second-person')
    return 'Nobody gives the second look to their own work. Somebody else will have to look at it.';
  if (decision.reason === 'suspended') return `Your account is paused. Ask ${names.keyholder} about it.`;
  const nearest = decision.nearest;
  if (nearest?.missed === 'branch' || nearest?.missed === 'assignment-branch')
    return `You may ${doing} ${whereOf(nearest, names)}, but this lies elsewhere. ${ask}`;
  if (nearest?.missed === 'own') return `You may ${doing}, but only your own work. ${ask}`;
  if (nearest?.missed === 'layouts' || nearest?.missed === 'states')
    return `You may ${doing} ${whereOf(nearest, names)}, but this is none of those. ${ask}`;
  if (nearest?.missed === 'fields')
    return `You may change only ${sayList(nearest.grant.scope.fields?.map(quoted(names).field) ?? [])} here. ${ask}`;
  if (nearest?.missed === 'time') return `Your time for this has not begun or is over. ${ask}`;
  if (nearest?.missed === 'door-look') return `You can read this, but not change it. ${ask}`;
  return `Your room does not include this: you may not ${doing}. ${ask}`;
}
