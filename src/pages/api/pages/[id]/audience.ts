import { z } from 'zod';
import { setAudience } from '@/server/content/audience';
import { endpoint } from '@/server/gate/endpoint';

/** Says who may visit a page on the website; null for as the page above. */
export const PUT = endpoint({
  needs: 'page.publish',
  on: 'page',
  body: z.strictObject({ audience: z.union([z.null(), z.strictObject({ kind: z.enum(['everyone', 'members']) }), z.strictObject({ kind: z.literal('roles'), roles: z.array(z.string().max(80)).min(1, 'Choose at least one role.').max(50) })]) }),
  run: ({ tx, access, id, body }) => setAudience(tx, access, id, body.audience),
});
