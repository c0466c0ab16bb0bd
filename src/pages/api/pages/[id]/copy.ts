import { copyPage } from '@/server/pages/make';
import { endpoint } from '@/server/gate/endpoint';

/** Copies a page beside itself, with or without what lies below. */
export const POST = endpoint('POST /api/pages/[id]/copy', {
  needs: 'page.view',
  on: 'page',
  run: ({ tx, access, id, body }) => copyPage(tx, access, id, body),
});
