import { findTargets } from '@/server/content/search';
import { endpoint } from '@/server/gate/endpoint';

/** Pages of the website a link can lead to, newest first; those whose title fits some words, if there are any. */
export const GET = endpoint({
  needs: 'signed-in',
  run: async ({ tx, access, request }) => ({ targets: await findTargets(tx, access.site.id, (new URL(request.url).searchParams.get('q') ?? '').trim().slice(0, 200)) }),
});
