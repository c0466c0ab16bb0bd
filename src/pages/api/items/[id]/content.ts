import type { PageContent } from '@/core/content';
import { getEditable } from '@/server/items/editable';
import { endpoint } from '@/server/gate/endpoint';

/** What an item says newest, also what is not right yet of it. */
export const GET = endpoint('GET /api/items/[id]/content', {
  needs: 'item.view',
  on: 'item',
  run: async ({ tx, access, id }) => {
    const { content, unfinished, faults, draft } = await getEditable(tx, access.inventory, access.site.id, id);
    return { content: { ...content, ...(unfinished as PageContent) }, version: draft?.version ?? 0, faults };
  },
});
