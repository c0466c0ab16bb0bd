import { endpoint } from '@/server/gate/endpoint';
import { stepIn } from '@/server/gate/step-in';

/** Begins a trial of a room: a person's, or that of a role nobody holds yet. */
export const POST = endpoint('POST /api/workshop/step-in', {
  needs: 'plan.edit',
  run: ({ tx, access, body }) => stepIn(tx, access, body),
});
