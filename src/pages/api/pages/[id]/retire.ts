import { z } from 'zod';
import { deletePage, previewRetire, putBack, takePageDown } from '@/server/content/retire';
import { endpoint } from '@/server/gate/endpoint';

const DO = { look: previewRetire, 'take-down': takePageDown, 'put-back': putBack, delete: deletePage } as const;

/** Takes a page and all below it off the website or deletes it, puts it back, or only looks what that would take along. */
export const POST = endpoint({
  needs: 'page.retire',
  on: 'page',
  body: z.strictObject({ do: z.enum(['look', 'take-down', 'put-back', 'delete']) }),
  run: ({ tx, access, id, body }): Promise<unknown> => DO[body.do](tx, access, id),
});
