import { z } from 'zod';
import { rootPageId } from '@/server/tree/tree';
import { endpoint } from '@/server/gate/endpoint';
import { noticeSchema, postNotice } from '@/server/notices/notices';

/** Puts a notice on the website, or on the branch under `page`. */
export const POST = endpoint({
  needs: 'notice.post',
  on: 'placeForNew',
  body: noticeSchema.extend({
    page: z
      .string()
      .regex(/^\d{1,9}$/)
      .optional(),
  }),
  run: async ({ tx, access, body }) =>
    postNotice(tx, access, body.page ? Number(body.page) : ((await rootPageId(tx, access.site.id)) ?? 0), body),
});
