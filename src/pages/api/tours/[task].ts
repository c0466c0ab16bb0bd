import { endpoint } from '@/server/gate/endpoint';
import { notFound } from '@/server/gate/problems';
import { keepProgress } from '@/server/tours/progress';

/** Remembers how far one is with a tour. */
export const PUT = endpoint('PUT /api/tours/[task]', {
  needs: 'signed-in',
  run: ({ tx, access, params, body }) => {
    const task = access.inventory.tasks.get(params['task'] ?? '');
    if (!task) throw notFound('This tour');
    return keepProgress(tx, access, task, body);
  },
});
