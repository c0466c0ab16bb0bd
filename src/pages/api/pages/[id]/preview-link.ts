import { z } from 'zod';
import { makePreviewLink } from '@/server/content/previews';
import { endpoint, originOf } from '@/server/gate/endpoint';

/** Makes a link under which the draft can be looked at without an account, for some days. */
export const POST = endpoint({
  needs: 'page.edit',
  on: 'page',
  body: z.strictObject({ days: z.int().min(1).max(30) }),
  run: ({ tx, access, id, body, request }) => makePreviewLink(tx, access, id, body.days, originOf(request)),
});
