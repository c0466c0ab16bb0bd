import { z } from 'zod';
import { remark, settleRemark } from '@/server/items/remarks';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/** Makes, answers or settles a remark on a draft that was sent. Whoever reads it and whoever wrote it may. */
export const POST = endpoint({
  needs: 'signed-in',
  on: 'review',
  body: z.union([
    z.strictObject({
      field: z.string().max(60),
      quote: z.string().trim().max(300),
      text: z.string().trim().min(1, 'Write something first.').max(1000),
      answers: idSchema.nullable(),
    }),
    z.strictObject({ settle: idSchema, settled: z.boolean() }),
  ]),
  run: ({ tx, access, id, thing, body }) =>
    'settle' in body
      ? settleRemark(tx, access, id, thing, body.settle, body.settled)
      : remark(tx, access, id, thing, body),
});
