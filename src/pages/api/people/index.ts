import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';
import { invite } from '@/server/people/invite';

/** Makes an account and a one-time link for its password. */
export const POST = endpoint('POST /api/people', {
  needs: 'person.manage',
  run: ({ tx, access, body, request }) => invite(tx, access, body, originOf(request)),
});
