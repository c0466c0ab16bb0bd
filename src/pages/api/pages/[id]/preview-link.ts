import { mustHavePanel } from '@/server/items/allowed';
import { endPreviewLink, listPreviewLinks, makePreviewLink } from '@/server/items/previews';
import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';

/** Makes a link under which the draft can be looked at without an account, for some days, or ends one. */
export const POST = endpoint('POST /api/pages/[id]/preview-link', {
  needs: 'page.edit',
  on: 'page',
  run: async ({ tx, access, id, body, request, thing }) => {
    if ('end' in body) return endPreviewLink(tx, access, id, body.end);
    mustHavePanel(access, thing, 'link');
    return {
      ...(await makePreviewLink(tx, access, id, body.days, originOf(request))),
      links: await listPreviewLinks(tx, access.site, id),
    };
  },
});
