import { z } from 'zod';
import { endpoint, idSchema } from '@/server/gate/endpoint';
import { moveInHistory } from '@/server/plan/changes';

/** Takes one's own last change to a role back, or makes it again; `also` names what goes with it. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({
    direction: z.enum(['undo', 'redo']),
    role: z.string().max(80).nullable(),
    also: z.array(idSchema).max(300).default([]),
  }),
  run: ({ tx, access, body }) => moveInHistory(tx, access, body),
});
