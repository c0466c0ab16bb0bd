import { listPages, liveNameOf } from '@/server/tree/tree';
import { endpoint } from '@/server/gate/endpoint';

/** Every page with where it lies: what the Workshop works a room out from. */
export const GET = endpoint('GET /api/workshop/pages', {
  needs: 'plan.view',
  run: async ({ tx, access }) => ({
    pages: (await listPages(tx, access.site.id)).map((page) => ({
      id: page.id,
      parent: page.parent,
      title: liveNameOf(page),
      place: page.place,
    })),
  }),
});
