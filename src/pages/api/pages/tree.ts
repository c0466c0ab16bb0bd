import { beginTree, branchOf, searchTree } from '@/server/pages/listing';
import { endpoint } from '@/server/gate/endpoint';

/**
 * The tree a screen begins with, what lies below a page (`below`), or what fits some words with all above it (`q`);
 * only what somebody may see.
 */
export const GET = endpoint('GET /api/pages/tree', {
  needs: 'signed-in',
  run: async ({ tx, access, query }) => {
    const asked = query;
    const q = (asked.get('q') ?? '').trim().slice(0, 200);
    const below = asked.get('below');
    if (q) return searchTree(tx, access, q);
    return below === null ? beginTree(tx, access) : { pages: await branchOf(tx, access, below) };
  },
});
