import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { setSuspended } from '@/server/people/assign';

/** Pauses an account, or lets it work again. */
export const POST = endpoint({
  needs: 'person.manage',
  body: z.strictObject({ paused: z.boolean() }),
  run: ({ tx, access, id, body }) => setSuspended(tx, access, id, body.paused),
});
