import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { describePicture } from '@/server/media/media';

/** Changes what a picture is said to show. */
export const POST = endpoint({
  needs: 'media.describe',
  body: z.strictObject({
    description: z
      .string()
      .trim()
      .min(1, 'Say what the picture shows.')
      .max(250, 'One sentence of at most 250 characters is enough.'),
  }),
  run: ({ tx, access, id, body }) =>
    describePicture(tx, access, Number.isSafeInteger(id) && id < 1e9 ? id : 0, body.description),
});
