import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { changeMany, manySchema } from '@/server/people/many';

/** The same change for several people: told first, done when confirmed. */
export const POST = endpoint({
  needs: 'person.manage',
  body: z.strictObject({
    people: z.array(z.int().positive()).min(1, 'Choose somebody.').max(200, 'At most 200 people at once.'),
    change: manySchema,
    confirm: z.boolean(),
  }),
  run: ({ tx, access, body }) => changeMany(tx, access, body),
});
