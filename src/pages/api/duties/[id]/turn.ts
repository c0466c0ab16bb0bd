import { turnDuty } from '@/server/duties/duties';
import { endpoint } from '@/server/gate/endpoint';

/** Ticks a duty off, takes that back, or gives it back: whose turn it is, and who gave it. */
export const POST = endpoint('POST /api/duties/[id]/turn', {
  needs: 'signed-in',
  run: ({ tx, access, id, body }) => turnDuty(tx, access, id, body),
});
