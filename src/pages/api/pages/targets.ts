import { findTargets, findTargetsBelow } from '@/server/tree/search';
import { endpoint } from '@/server/gate/endpoint';

const MOST = 50;
const NEWEST = 5;

/**
 * Pages of the website a link can lead to: with words (`q`), those whose title fits; without, those changed last, and
 * the tree's beginning; with a page (`below`), what lies right below it.
 */
export const GET = endpoint('GET /api/pages/targets', {
  needs: 'signed-in',
  run: async ({ tx, access, query }) => {
    const asked = query;
    const q = (asked.get('q') ?? '').trim().slice(0, 200);
    const below = asked.get('below');
    if (below !== null)
      return { tree: await findTargetsBelow(tx, access, /^\d{1,9}$/.test(below) ? Number(below) : 0) };
    if (q) return { targets: await findTargets(tx, access, q, MOST) };
    return { targets: await findTargets(tx, access, '', NEWEST), tree: await findTargetsBelow(tx, access, null) };
  },
});
