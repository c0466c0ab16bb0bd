import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { moveHolders } from '@/server/people/assign';

/** Gives everybody who holds a role another one in its place. */
export const POST = endpoint({
  needs: 'person.manage',
  body: z.strictObject({ from: z.string().max(80), to: z.string().max(80) }),
  run: ({ tx, access, body }) => moveHolders(tx, access, body.from, body.to),
});
