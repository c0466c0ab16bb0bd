import { z } from 'zod';
import { putAside } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps a version that was not chosen when two people wrote at once. */
export const POST = endpoint({
  needs: 'item.edit',
  on: 'item',
  body: z.strictObject({ content: z.unknown() }),
  run: ({ tx, access, id, body }) => putAside(tx, access, id, body.content),
});
