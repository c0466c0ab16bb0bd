import { z } from 'zod';
import { bulkSchema, doWithMany, tryWithMany } from '@/server/pages/bulk';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/**
 * Does the same with many pages, or with `dry` only says what would become of each. What somebody may not is refused
 * page by page.
 */
export const POST = endpoint({
  needs: 'signed-in',
  body: z.strictObject({ ids: z.array(idSchema).min(1).max(1000), bulk: bulkSchema, dry: z.boolean().default(false) }),
  run: ({ tx, access, body, progress }) =>
    body.dry ? tryWithMany(tx, access, body.ids, body.bulk) : doWithMany(tx, access, body.ids, body.bulk, progress),
});
