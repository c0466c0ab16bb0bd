import { mustBeDone } from '@/server/items/together';
import { setAudience } from '@/server/pages/audience';
import { endpoint } from '@/server/gate/endpoint';

/** Says who may visit a page on the website; null for as the page above. */
export const PUT = endpoint('PUT /api/pages/[id]/audience', {
  needs: 'page.publish',
  on: 'page',
  run: async ({ tx, access, id, body }) => mustBeDone(await setAudience(tx, access, [id], body.audience)),
});
