import { z } from 'zod';
import { saveDraft } from '@/server/content/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps the draft of a page. */
export const PUT = endpoint({
  needs: 'page.edit',
  on: 'page',
  body: z.strictObject({
    content: z.unknown(),
    version: z.int().min(0).max(2_147_483_647),
    over: z.boolean().optional(),
  }),
  run: ({ tx, access, id, body }) => saveDraft(tx, access, id, body),
});
