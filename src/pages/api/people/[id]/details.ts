import { endpoint } from '@/server/gate/endpoint';
import { setDetails } from '@/server/people/details';

/** Gives somebody another name or mail address; `before` is what they had when the form was opened. */
export const PUT = endpoint('PUT /api/people/[id]/details', {
  needs: 'person.manage',
  run: ({ tx, access, id, body }) => setDetails(tx, access, id, body),
});
