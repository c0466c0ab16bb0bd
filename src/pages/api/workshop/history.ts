import { endpoint } from '@/server/gate/endpoint';
import { moveInHistory } from '@/server/plan/changes';

/** Takes one's own last change to a role back, or makes it again; `also` names what goes with it. */
export const POST = endpoint('POST /api/workshop/history', {
  needs: 'plan.edit',
  run: ({ tx, access, body }) => moveInHistory(tx, access, body),
});
