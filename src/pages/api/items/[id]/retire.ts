import { z } from 'zod';
import { deleteItem, previewRetire, putBack, takeItemDown } from '@/server/pages/retire';
import { endpoint } from '@/server/gate/endpoint';

const DO = { look: previewRetire, 'take-down': takeItemDown, 'put-back': putBack, delete: deleteItem } as const;

/**
 * Takes an item and all below it off the website or deletes it, puts it back, or only looks what that would take along.
 */
export const POST = endpoint({
  needs: 'item.retire',
  on: 'item',
  body: z.strictObject({ do: z.enum(['look', 'take-down', 'put-back', 'delete']) }),
  run: ({ tx, access, id, body }): Promise<unknown> => DO[body.do](tx, access, id),
});
