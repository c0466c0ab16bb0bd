import { endpoint } from '@/server/gate/endpoint';
import { getReviewView } from '@/server/items/compared';
import { listRemarks } from '@/server/items/remarks';

/** What a draft that was sent changes for visitors, and what was remarked on it. */
export const GET = endpoint('GET /api/review/[id]/look', {
  needs: 'review.view',
  on: 'review',
  run: async ({ tx, access, id }) => ({
    changes: (await getReviewView(tx, access.inventory, access.site.id, id)).changes,
    remarks: await listRemarks(tx, access.site.id, id),
  }),
});
