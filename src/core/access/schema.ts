import { z } from 'zod';
import { PAGE_STATES } from './types';

/** `object.verb`, `object.*` or `*`. */
export const PERMISSION_PATTERN = /^(\*|[A-Za-z][\w-]*\.(\*|[A-Za-z][\w-]*))$/;

export const scopeSchema = z.strictObject({
  branch: z.string().min(1).max(40).optional(),
  own: z.literal(true).optional(),
  layouts: z.array(z.string().min(1).max(80)).min(1).optional(),
  states: z.array(z.enum(PAGE_STATES)).min(1).optional(),
});

/** A grant as every document of ours writes it. */
export const openGrantSchema = z.strictObject({
  effect: z.enum(['allow', 'deny']),
  permission: z.string().regex(PERMISSION_PATTERN, 'object.verb, object.* or *'),
  scope: scopeSchema,
});

export const apartSchema = z.array(z.tuple([z.string().min(1), z.string().min(1)]));
