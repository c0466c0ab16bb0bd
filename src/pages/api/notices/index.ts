import { z } from 'zod';
import { rootPageId } from '@/server/content/tree';
import { endpoint } from '@/server/gate/endpoint';
import { postNotice } from '@/server/notices/notices';

/** Puts a notice on the website, or on the branch under `page`. */
export const POST = endpoint({
  needs: 'notice.post',
  on: 'noticePlace',
  body: z.strictObject({
    text: z.string().trim().min(1, 'Write what visitors should read.').max(300, 'A notice can have 300 characters; people read it standing.'),
    kind: z.enum(['information', 'warning']),
    page: z.string().regex(/^\d{1,9}$/).optional(),
    from: z.string().max(20).optional(),
    until: z.string().max(20).optional(),
  }),
  run: async ({ tx, access, body }) => postNotice(tx, access, body.page ? Number(body.page) : ((await rootPageId(tx, access.site.id)) ?? 0), body),
});
