import { endpoint } from '@/server/gate/endpoint';
import { changeMany } from '@/server/people/many';

/** The same change for several people: told first, done when confirmed. */
export const POST = endpoint('POST /api/people/many', {
  needs: 'person.manage',
  run: ({ tx, access, body }) => changeMany(tx, access, body),
});
