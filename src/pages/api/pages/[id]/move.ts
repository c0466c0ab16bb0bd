import { movePage, previewMove } from '@/server/pages/move';
import { endpoint } from '@/server/gate/endpoint';

/** Moves a page, or with `dry` only says what would move with it. */
export const POST = endpoint('POST /api/pages/[id]/move', {
  needs: 'page.arrange',
  on: 'page',
  run: ({ tx, access, id, body }) =>
    body.dry ? previewMove(tx, access, { page: id, ...body }) : movePage(tx, access, { page: id, ...body }),
});
