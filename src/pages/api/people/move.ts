import { endpoint } from '@/server/gate/endpoint';
import { moveHolders } from '@/server/people/assign';

/** Gives everybody who holds a role another one in its place. */
export const POST = endpoint('POST /api/people/move', {
  needs: 'person.manage',
  run: ({ tx, access, body }) => moveHolders(tx, access, body.from, body.to),
});
