import { takeBack } from '@/server/pages/bulk';
import { endpoint } from '@/server/gate/endpoint';

/** Takes back what was done with many pages, as its answer told. Each step is asked for like the single one. */
export const POST = endpoint('POST /api/pages/take-back', {
  needs: 'signed-in',
  run: ({ tx, access, body, progress }) => takeBack(tx, access, body.steps, progress),
});
