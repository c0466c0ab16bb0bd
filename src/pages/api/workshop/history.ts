import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { moveInHistory } from '@/server/plan/changes';

/** Takes the last operation back, or makes the one taken back last again. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({ revision: z.int().max(2_147_483_647), direction: z.enum(['undo', 'redo']) }),
  run: ({ tx, access, body }) => moveInHistory(tx, access, body.revision, body.direction),
});
