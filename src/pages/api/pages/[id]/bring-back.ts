import { bringBack } from '@/server/content/retire';
import { endpoint } from '@/server/gate/endpoint';

/** Brings a deleted page back, with what was deleted with it. */
export const POST = endpoint({
  needs: 'page.retire',
  on: 'deletedPage',
  run: ({ tx, access, id }) => bringBack(tx, access, id),
});
