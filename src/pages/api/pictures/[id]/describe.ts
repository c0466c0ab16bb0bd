import { endpoint } from '@/server/gate/endpoint';
import { describePicture } from '@/server/pictures/pictures';

/** Changes what a picture is said to show, and to which part of the website it belongs. */
export const POST = endpoint('POST /api/pictures/[id]/describe', {
  needs: 'media.describe',
  run: ({ tx, access, id, body }) => describePicture(tx, access, Number.isSafeInteger(id) && id < 1e9 ? id : 0, body),
});
