import { and, eq, inArray, isNull, not, or, sql, type SQL } from 'drizzle-orm';
import { rulesFor, type Rule } from '@/core/access';
import { now } from '../clock';
import { drafts, pages, publications, reviews } from '../db/schema';
import type { Access } from './access';

/** The state of a page, as `findPagePlace` tells it. */
const state = sql<string>`case
  when exists (select 1 from ${drafts} where ${drafts.pageId} = ${pages.id}) then 'draft'
  when exists (select 1 from ${reviews} where ${reviews.pageId} = ${pages.id} and ${reviews.outcome} is null) then 'waiting'
  when ${pages.downRevisionId} is not null then 'down'
  when exists (select 1 from ${publications} where ${publications.pageId} = ${pages.id}) then 'published'
  else 'draft' end`;
const NO = sql`false`;

const under = (branch: string): SQL => (/^\d{1,9}$/.test(branch) ? sql`${pages.path} <@ (select b.path from ${pages} b where b.id = ${Number(branch)})` : NO);

const holds = (rule: Rule, personId: string): SQL =>
  and(
    sql`true`,
    ...rule.branches.map(under),
    rule.own && (/^\d{1,9}$/.test(personId) ? eq(pages.authorId, Number(personId)) : NO),
    rule.layouts && inArray(pages.layout, rule.layouts),
    rule.states && inArray(state, rule.states),
  ) ?? NO;

/**
 * "Pages somebody may …" as a condition on the table of pages: just the rows for which the gate says yes, for lists that the database
 * sorts, counts and cuts itself.
 */
export function allowedPages(access: Access, permission: string): SQL {
  const personId = access.who.id;
  const rules = rulesFor(access.policy, personId, permission, now().getTime());
  const of = (effect: Rule['effect']) => rules.filter((rule) => rule.effect === effect).map((rule) => sql`coalesce(${holds(rule, personId)}, false)`);
  const [allows, denies] = [of('allow'), of('deny')];
  if (allows.length === 0) return NO;
  return and(isNull(pages.deletedAt), or(...allows), denies.length > 0 ? not(or(...denies) ?? NO) : undefined) ?? NO;
}
