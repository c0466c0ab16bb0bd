import { removeFilter, saveFilter } from '@/server/pages/filters';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps a filter of the list of pages under a name, or with a null query forgets it. */
export const POST = endpoint('POST /api/pages/filters', {
  needs: 'signed-in',
  run: ({ tx, access, body }) =>
    body.filter ? saveFilter(tx, access, body.name, body.filter) : removeFilter(tx, access, body.name),
});
