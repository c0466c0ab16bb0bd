import { getEditablePage } from '@/server/content/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** What a page says newest. */
export const GET = endpoint({
  needs: 'page.view',
  on: 'page',
  run: async ({ tx, access, id }) => ({ content: (await getEditablePage(tx, access.site.id, id)).content }),
});
