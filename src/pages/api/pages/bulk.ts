import { doWithMany, tryWithMany } from '@/server/pages/bulk';
import { endpoint } from '@/server/gate/endpoint';

/**
 * Does the same with many pages, or with `dry` only says what would become of each. What somebody may not is refused
 * page by page.
 */
export const POST = endpoint('POST /api/pages/bulk', {
  needs: 'signed-in',
  run: ({ tx, access, body, progress }) =>
    body.dry ? tryWithMany(tx, access, body.ids, body.bulk) : doWithMany(tx, access, body.ids, body.bulk, progress),
});
