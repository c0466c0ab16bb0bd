import { maySee } from '@/server/content/naming';
import { listPages } from '@/server/content/tree';
import { authorize, mayOn } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/**
 * The pages a field picks one from, in no order: `for` says which. `seen`: all somebody may know of; `notices`: those they may post a
 * notice on; `plan`: all there are, for whoever prepares rooms.
 */
export const GET = endpoint({
  needs: 'signed-in',
  run: async ({ tx, access, query }) => {
    const purpose = query.get('for');
    if (purpose === 'plan') await authorize(tx, access, 'plan.view', {});
    const sees = purpose === 'plan' ? () => true : maySee(access);
    const mayPost = mayOn(access, 'notice.post');
    const pages = (await listPages(tx, access.site.id)).filter(
      (page) => sees(page) && (purpose !== 'notices' || mayPost({ ...page.place, author: access.who.id })),
    );
    return {
      pages: pages.map(({ id, parent, shortName, liveTitle }) => ({ id, parent, title: shortName ?? liveTitle })),
    };
  },
});
