import { findHeld } from '@/server/items/held';
import { endpoint } from '@/server/gate/endpoint';

/** `?made=table`: the texts that hold what a tool makes. */
export const GET = endpoint('GET /api/workshop/held', {
  needs: 'plan.view',
  run: ({ tx, access, query }) => findHeld(tx, access.site.id, query.get('made') ?? ''),
});
