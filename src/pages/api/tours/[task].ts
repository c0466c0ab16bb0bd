import { z } from 'zod';
import { inventory } from '@/office';
import { endpoint } from '@/server/gate/endpoint';
import { notFound } from '@/server/gate/problems';
import { keepProgress } from '@/server/tours/progress';

/** Remembers how far one is with a tour. */
export const PUT = endpoint({
  needs: 'signed-in',
  body: z.strictObject({ stop: z.int().min(0).max(200), done: z.boolean(), seen: z.boolean().default(false) }),
  run: ({ tx, access, params, body }) => {
    const task = params['task'] ?? '';
    if (!inventory.tasks.has(task)) throw notFound('This tour');
    return keepProgress(tx, access, task, body.stop, body);
  },
});
