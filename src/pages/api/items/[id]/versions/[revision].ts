import { mustSeePanel } from '@/server/items/allowed';
import { compareVersions } from '@/server/items/compared';
import { endpoint } from '@/server/gate/endpoint';

const number = (text: string | null | undefined) => (/^\d{1,9}$/.test(text ?? '') ? Number(text) : null);

/** An earlier version of an item, compared with another (`with`), or with what visitors see now. */
export const GET = endpoint('GET /api/items/[id]/versions/[revision]', {
  needs: 'item.view',
  on: 'item',
  run: ({ tx, access, id, thing, params, query }) => {
    mustSeePanel(access, thing, 'versions');
    return compareVersions(
      tx,
      access.inventory,
      access.site.id,
      id,
      number(params['revision']) ?? 0,
      number(query.get('with')),
    );
  },
});
