import { endpoint } from '@/server/gate/endpoint';
import { describePicture } from '@/server/pictures/pictures';

/** Changes what a picture is said to show. */
export const POST = endpoint('POST /api/pictures/[id]/describe', {
  needs: 'media.describe',
  run: ({ tx, access, id, body }) =>
    describePicture(tx, access, Number.isSafeInteger(id) && id < 1e9 ? id : 0, body.description),
});
