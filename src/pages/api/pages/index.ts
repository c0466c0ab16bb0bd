import { z } from 'zod';
import { makePage, makePages } from '@/server/pages/make';
import { endpoint, idSchema } from '@/server/gate/endpoint';

const parent = idSchema;
const layout = z.string().min(1).max(40);

/** Makes a page below another, or as many as an indented list has titles. */
export const POST = endpoint({
  needs: 'page.create',
  on: 'pageAbove',
  body: z.union([
    z.strictObject({ parent, layout, title: z.string().trim().min(1, 'Give the page a title.').max(120) }),
    z.strictObject({ parent, layout, outline: z.string().min(1, 'Paste or type a list first.').max(40_000) }),
  ]),
  run: ({ tx, access, body }) =>
    'outline' in body ? makePages(tx, access, body.parent, body) : makePage(tx, access, body.parent, body),
});
