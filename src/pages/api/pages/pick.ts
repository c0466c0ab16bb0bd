import { maySee } from '@/server/tree/naming';
import { listPages, liveNameOf } from '@/server/tree/tree';
import { mayOn } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/**
 * The pages a field picks one from: all that somebody may know of, or with `for=` a permission those of them on which
 * they may do that as their own.
 */
export const GET = endpoint('GET /api/pages/pick', {
  needs: 'signed-in',
  run: async ({ tx, access, query }) => {
    const sees = maySee(access);
    const wanted = query.get('for');
    const may =
      wanted !== null && access.inventory.permissions.has(wanted as never) ? mayOn(access, wanted) : () => true;
    const pages = (await listPages(tx, access.site.id)).filter(
      (page) => sees(page) && (wanted === null || may({ ...page.place, author: access.who.id })),
    );
    return { pages: pages.map((page) => ({ id: page.id, parent: page.parent, title: liveNameOf(page) })) };
  },
});
