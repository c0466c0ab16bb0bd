import { filterSchema } from '@/core/lists';
import { listByFilter } from '@/server/pages/byFilter';
import { endpoint, parseBody } from '@/server/gate/endpoint';

const MOST = 100;

/** A stretch of the list of pages; only those somebody may see are in it. */
export const GET = endpoint('GET /api/pages/list', {
  needs: 'signed-in',
  run: ({ tx, access, query }) => {
    const asked = query;
    const offset = Math.max(0, Math.min(Number(asked.get('offset') ?? 0) || 0, 1_000_000));
    return listByFilter(tx, access, parseBody(filterSchema, Object.fromEntries(asked)), { offset, limit: MOST });
  },
});
