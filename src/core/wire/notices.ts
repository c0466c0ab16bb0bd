import { z } from 'zod';
import { pageIdSchema, type Contract } from './parts';

/** A notice as its form sends it; hours on the site's own clock. */
const noticeSchema = z.strictObject({
  text: z
    .string()
    .trim()
    .min(1, 'Write what visitors should read.')
    .max(300, 'A notice can have 300 characters; people read it standing.'),
  kind: z.enum(['information', 'warning']),
  from: z.string().max(20).optional(),
  until: z.string().max(20).optional(),
});
export type NewNotice = z.infer<typeof noticeSchema>;
/** The same for one that is set right: `was` is what it said when the form was opened. */
const correction = noticeSchema.extend({ was: z.string().max(300) });
export type Correction = z.infer<typeof correction>;

export const noticeRoutes = {
  'POST /api/notices': {
    body: noticeSchema.extend({
      page: pageIdSchema.optional(),
      /** On that page, and on none below it. */
      alone: z.boolean().default(false),
    }),
    answer: z.object({ id: z.int() }),
  },
  'POST /api/notices/[id]/correct': { body: correction },
  'POST /api/notices/[id]/end': {},
  'POST /api/pictures/[id]/describe': {
    body: z.strictObject({
      description: z
        .string()
        .trim()
        .min(1, 'Say what the picture shows.')
        .max(250, 'One sentence of at most 250 characters is enough.'),
      /** The page whose part of the website it belongs to; null: to none. Left out it stays. */
      part: pageIdSchema.nullable().optional(),
    }),
  },
} as const satisfies Record<string, Contract>;
