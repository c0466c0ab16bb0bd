import { endpoint } from '@/server/gate/endpoint';
import { setAssignments } from '@/server/people/assign';

/** Gives somebody other roles; `before` is what they held when the form was opened. */
export const PUT = endpoint('PUT /api/people/[id]/assignments', {
  needs: 'person.manage',
  run: ({ tx, access, id, body }) => setAssignments(tx, access, id, body),
});
