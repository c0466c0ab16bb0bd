import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { setAssignments } from '@/server/people/assign';
import { assignmentsSchema } from '@/server/people/given';

/** Gives somebody other roles; `before` is what they held when the form was opened. */
export const PUT = endpoint({
  needs: 'person.manage',
  body: z.strictObject({ before: assignmentsSchema, after: assignmentsSchema }),
  run: ({ tx, access, id, body }) => setAssignments(tx, access, id, body),
});
