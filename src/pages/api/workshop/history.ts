import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { moveInHistory } from '@/server/plan/plans';

/** Takes the last operation back, or makes the one taken back last again. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({ revision: z.int(), direction: z.enum(['undo', 'redo']) }),
  run: ({ tx, access, body }) => moveInHistory(tx, access, body.revision, body.direction),
});
