import { z } from 'zod';
import { copyPage } from '@/server/pages/make';
import { endpoint } from '@/server/gate/endpoint';

/** Copies a page beside itself, with or without what lies below. */
export const POST = endpoint({
  needs: 'page.view',
  on: 'page',
  body: z.strictObject({ withBelow: z.boolean() }),
  run: ({ tx, access, id, body }) => copyPage(tx, access, id, body),
});
