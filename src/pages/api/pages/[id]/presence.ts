import { z } from 'zod';
import { tellPresence } from '@/server/content/presence';
import { endpoint } from '@/server/gate/endpoint';

/** Says that somebody has the page open, and asks who else has. */
export const POST = endpoint({
  needs: 'page.view',
  on: 'page',
  body: z.strictObject({ typing: z.boolean(), leaving: z.boolean().default(false) }),
  run: ({ tx, access, id, body }) => tellPresence(tx, access, id, body),
});
