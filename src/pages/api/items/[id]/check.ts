import { maySee } from '@/server/tree/naming';
import { findPlace } from '@/server/tree/tree';
import { readContent } from '@/core/content';
import { unfilled } from '@/server/items/allowed';
import { formOf } from '@/server/items/forms';
import { contentOf, findNewest, mustFindItem } from '@/server/items/items';
import { withNames } from '@/server/items/links';
import { checkContent } from '@/server/items/publishing';
import { endpoint } from '@/server/gate/endpoint';
import { problemAt } from '@/server/gate/problems';

/** What may be wrong with what is on the screen. */
export const POST = endpoint('POST /api/items/[id]/check', {
  needs: 'item.edit',
  on: 'item',
  run: async ({ tx, access, id, body }) => {
    const item = await mustFindItem(tx, access.site.id, id);
    const { layouts, type } = formOf(access.inventory, item);
    // What is not right yet is told at its field; everything else is looked at all the same.
    const known = [await findNewest(tx, item), await contentOf(tx, item.liveRevisionId)];
    const named = await withNames(tx, access, id, body.content, known);
    const read = readContent(layouts, item.layout, named, type.settings);
    if (!read) throw problemAt('', 'nothing-sent');
    const missing = unfilled(access, item, await findPlace(tx, access.site.id, id), read.content);
    const found = await checkContent(tx, access, id, read.content, maySee(access));
    return {
      findings: [
        ...missing.map((fault) => ({ ...fault, rule: 'block' as const })),
        ...found.filter(({ field }) => !missing.some((fault) => fault.field === field)),
      ],
    };
  },
});
