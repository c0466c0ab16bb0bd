import { and, eq, inArray, isNotNull, isNull, not, or, sql, type SQL } from 'drizzle-orm';
import { isInForce, rulesFor, type AccessRule } from '@/core/access';
import { now } from '../clock';
import { drafts, items, publications, reviews } from '../db/schema';
import type { Access } from './access';

const NO = sql`false`;
const IS_PAGE = eq(items.type, 'page');

/**
 * Pages somebody may know of: theirs to look at, or on the website for everybody, or for members where they are one.
 */
export function knownPages(access: Access): SQL {
  const audience = sql`(select a.audience->>'kind' from ${items} a where a.path @> ${items.path} and a.audience is not null order by nlevel(a.path) desc limit 1)`;
  const kinds = access.who.assignments.some((a) => isInForce(a, now().getTime()))
    ? ['everyone', 'members']
    : ['everyone'];
  return (
    or(
      allowedPages(access, 'page.view'),
      and(
        IS_PAGE,
        isNull(items.deletedAt),
        isNotNull(items.liveRevisionId),
        or(sql`${audience} is null`, inArray(audience, kinds)),
      ),
    ) ?? NO
  );
}

/** The state of a page, as `findPlace` tells it. */
const state = sql<string>`case
  when exists (select 1 from ${drafts} where ${drafts.itemId} = ${items.id}) then 'draft'
  when exists (select 1 from ${reviews} where ${reviews.itemId} = ${items.id} and ${reviews.outcome} is null) then 'waiting'
  when ${items.downRevisionId} is not null then 'down'
  when exists (select 1 from ${publications} where ${publications.itemId} = ${items.id}) then 'published'
  else 'draft' end`;

const isNumber = (id: string) => /^\d{1,9}$/.test(id);
const under = (branch: string): SQL =>
  isNumber(branch) ? sql`${items.path} <@ (select b.path from ${items} b where b.id = ${Number(branch)})` : NO;

/** `ownIs` says of things that lie on pages whether they are somebody's own; of a page its author does. */
const holds = (rule: AccessRule, personId: string, ownIs: boolean | null): SQL =>
  and(
    sql`true`,
    ...rule.branches.map(under),
    rule.page === undefined ? undefined : isNumber(rule.page) ? eq(items.id, Number(rule.page)) : NO,
    rule.own &&
      (ownIs !== null ? sql`${ownIs}::boolean` : isNumber(personId) ? eq(items.authorId, Number(personId)) : NO),
    rule.layouts && inArray(items.layout, rule.layouts),
    rule.states && inArray(state, rule.states),
  ) ?? NO;

/**
 * "Pages somebody may …" as a condition on the table of pages: just the rows for which the gate says yes, for lists
 * that the database sorts, counts and cuts itself. For what lies on pages with an author of its own (notices) it is the
 * pages on which something of their own could be theirs. Deleted pages are left out, unless they are asked for.
 */
export function allowedPages(access: Access, permission: string, deletedToo = false): SQL {
  const personId = access.who.id;
  const rules = rulesFor(access.policy, personId, permission, now().getTime());
  const allowed = (ownIs: boolean | null): SQL => {
    const of = (effect: AccessRule['effect']) =>
      rules
        .filter((rule) => rule.effect === effect)
        .map((rule) => sql`coalesce(${holds(rule, personId, ownIs)}, false)`);
    const [allows, denies] = [of('allow'), of('deny')];
    return allows.length === 0
      ? NO
      : (and(or(...allows), denies.length > 0 ? not(or(...denies) ?? NO) : undefined) ?? NO);
  };
  const somehow = access.inventory.permissions.get(permission as never)?.ownAuthor
    ? or(allowed(true), allowed(false))
    : allowed(null);
  return and(IS_PAGE, deletedToo ? undefined : isNull(items.deletedAt), somehow) ?? NO;
}
