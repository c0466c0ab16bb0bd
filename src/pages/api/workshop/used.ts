import { countChanges, findUsed, USED_DAYS } from '@/server/items/held';
import { endpoint } from '@/server/gate/endpoint';

/** What people really made with their tools of late. */
export const GET = endpoint('GET /api/workshop/used', {
  needs: 'plan.view',
  run: async ({ tx, access }) => ({
    days: USED_DAYS,
    used: await findUsed(tx, access.site.id),
    changes: await countChanges(tx, access.site.id),
  }),
});
