import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { stepIn } from '@/server/gate/step-in';

/** Begins a trial of a room: a person's, or that of a role nobody holds yet. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({
    role: z.string(),
    person: z
      .string()
      .regex(/^\d{1,9}$/)
      .optional(),
    from: z.string().regex(/^\/workshop(\/[\w./-]*)?$/),
  }),
  run: ({ tx, access, body }) => stepIn(tx, access, body),
});
