import { makePage, makePages } from '@/server/pages/make';
import { endpoint } from '@/server/gate/endpoint';

/** Makes a page below another, or as many as an indented list has titles. */
export const POST = endpoint('POST /api/pages', {
  needs: 'page.create',
  on: 'pageAbove',
  run: ({ tx, access, body }) =>
    'outline' in body ? makePages(tx, access, body.parent, body) : makePage(tx, access, body.parent, body),
});
