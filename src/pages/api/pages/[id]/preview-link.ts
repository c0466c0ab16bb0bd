import { z } from 'zod';
import { endPreviewLink, listPreviewLinks, makePreviewLink } from '@/server/items/previews';
import { endpoint, idSchema } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';

/** Makes a link under which the draft can be looked at without an account, for some days, or ends one. */
export const POST = endpoint({
  needs: 'page.edit',
  on: 'page',
  body: z.union([z.strictObject({ days: z.int().min(1).max(30) }), z.strictObject({ end: idSchema })]),
  run: async ({ tx, access, id, body, request }) =>
    'end' in body
      ? endPreviewLink(tx, access, id, body.end)
      : {
          ...(await makePreviewLink(tx, access, id, body.days, originOf(request))),
          links: await listPreviewLinks(tx, access.site, id),
        },
});
