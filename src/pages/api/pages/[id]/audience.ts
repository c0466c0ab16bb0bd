import { z } from 'zod';
import { audienceSchema, setAudience } from '@/server/pages/audience';
import { endpoint } from '@/server/gate/endpoint';

/** Says who may visit a page on the website; null for as the page above. */
export const PUT = endpoint({
  needs: 'page.publish',
  on: 'page',
  body: z.strictObject({ audience: audienceSchema.nullable() }),
  run: ({ tx, access, id, body }) => setAudience(tx, access, id, body.audience),
});
