import { rootPageId } from '@/server/tree/tree';
import { endpoint } from '@/server/gate/endpoint';
import { postNotice } from '@/server/notices/notices';

/** Puts a notice on the website, or on the branch under `page`. */
export const POST = endpoint('POST /api/notices', {
  needs: 'notice.post',
  on: 'placeForNew',
  run: async ({ tx, access, body }) =>
    postNotice(tx, access, body.page ? Number(body.page) : ((await rootPageId(tx, access.site.id)) ?? 0), body),
});
