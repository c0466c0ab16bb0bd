import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { setDetails } from '@/server/people/assign';
import { emailSchema, nameSchema } from '@/server/people/given';

/** Gives somebody another name or mail address; `before` is what they had when the form was opened. */
export const PUT = endpoint({
  needs: 'person.manage',
  body: z.strictObject({
    before: z.strictObject({ name: z.string(), email: z.string() }),
    name: nameSchema,
    email: emailSchema,
  }),
  run: ({ tx, access, id, body }) => setDetails(tx, access, id, body),
});
