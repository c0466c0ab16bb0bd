import { maySee } from '@/server/content/naming';
import { listPages } from '@/server/content/tree';
import { mayOn } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/** The pages a field picks one from: all that somebody may know of, or with `for=notices` those of them they may post a notice on. */
export const GET = endpoint({
  needs: 'signed-in',
  run: async ({ tx, access, query }) => {
    const sees = maySee(access);
    const mayPost = mayOn(access, 'notice.post');
    const isForNotices = query.get('for') === 'notices';
    const pages = (await listPages(tx, access.site.id)).filter(
      (page) => sees(page) && (!isForNotices || mayPost({ ...page.place, author: access.who.id })),
    );
    return {
      pages: pages.map(({ id, parent, shortName, liveTitle }) => ({ id, parent, title: shortName ?? liveTitle })),
    };
  },
});
