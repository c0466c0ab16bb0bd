import { z } from 'zod';
import { movePage, previewMove } from '@/server/pages/move';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/** Moves a page, or with `dry` only says what would move with it. */
export const POST = endpoint({
  needs: 'page.arrange',
  on: 'page',
  body: z.strictObject({
    parent: idSchema,
    index: z.int().min(0).max(100_000),
    redirect: z.boolean().default(false),
    dry: z.boolean().default(false),
  }),
  run: ({ tx, access, id, body }) =>
    body.dry ? previewMove(tx, access, { page: id, ...body }) : movePage(tx, access, { page: id, ...body }),
});
