import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';
import { renewLink } from '@/server/people/invite';

/** A new one-time link for somebody's password. */
export const POST = endpoint('POST /api/people/[id]/link', {
  needs: 'person.manage',
  run: ({ tx, access, id, request }) => renewLink(tx, access, id, originOf(request)),
});
