import { z } from 'zod';
import { PAGE_STATES } from './types';

/** `object.verb`, `object.*` or `*`. */
export const PERMISSION_PATTERN = /^(\*|[A-Za-z][\w-]*\.(\*|[A-Za-z][\w-]*))$/;

/** "The page alone" says something of a page only. */
const isWhole = [
  (scope: { branch?: string | undefined; only?: true | undefined }) => !scope.only || scope.branch !== undefined,
  { path: ['only'] as PropertyKey[], message: 'needs the page as branch' },
] as const;

const scopeSchema = z
  .strictObject({
    branch: z.string().min(1).max(400).optional(),
    only: z.literal(true).optional(),
    own: z.literal(true).optional(),
    layouts: z.array(z.string().min(1).max(80)).min(1).optional(),
    states: z.array(z.enum(PAGE_STATES)).min(1).optional(),
    fields: z.array(z.string().min(1).max(80)).min(1).optional(),
  })
  .refine(...isWhole);

const id = z.string().min(1);
/** A scope whose layouts and states are any words. */
export const openScopeSchema = z
  .strictObject({
    branch: id.optional(),
    only: z.literal(true).optional(),
    own: z.literal(true).optional(),
    layouts: z.array(id).min(1).optional(),
    states: z.array(id).min(1).optional(),
    fields: z.array(id).min(1).optional(),
  })
  .refine(...isWhole);

/** Fields are of pages, and a "must not" is of a page as a whole: rules that name fields allow `page.edit`. */
export const fieldsFit = [
  (grant: { effect: string; permission: string; scope: { fields?: unknown } }) =>
    grant.scope.fields === undefined || (grant.effect === 'allow' && grant.permission === 'page.edit'),
  { path: ['scope', 'fields'] as PropertyKey[], message: 'only a rule that allows page.edit can name fields' },
] as const;

/** A grant as every document of ours writes it, before `fieldsFit`. */
export const openGrantSchema = z.strictObject({
  effect: z.enum(['allow', 'deny']),
  permission: z.string().regex(PERMISSION_PATTERN, 'object.verb, object.* or *'),
  scope: scopeSchema,
});

export const apartSchema = z.array(z.tuple([z.string().min(1), z.string().min(1)]));
