import { endpoint } from '@/server/gate/endpoint';
import { changeOwnMenu } from '@/server/own';

/** Changes one's own part of the menu: how close it stands, and favourites. */
export const PUT = endpoint('PUT /api/own-menu', {
  needs: 'signed-in',
  run: ({ tx, access, body }) => changeOwnMenu(tx, access, body),
});
