import { z } from 'zod';
import { stepBackSchema, takeBack } from '@/server/pages/bulk';
import { endpoint } from '@/server/gate/endpoint';

/** Takes back what was done with many pages, as its answer told. Each step is asked for like the single one. */
export const POST = endpoint({
  needs: 'signed-in',
  body: z.strictObject({ steps: z.array(stepBackSchema).min(1).max(1000) }),
  run: ({ tx, access, body, progress }) => takeBack(tx, access, body.steps, progress),
});
