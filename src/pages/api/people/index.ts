import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';
import { assignmentsSchema, emailSchema, nameSchema } from '@/server/people/given';
import { invite } from '@/server/people/invite';

/** Makes an account and a one-time link for its password. */
export const POST = endpoint({
  needs: 'person.manage',
  body: z.strictObject({ name: nameSchema, email: emailSchema, assignments: assignmentsSchema }),
  run: ({ tx, access, body, request }) => invite(tx, access, body, originOf(request)),
});
