import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';
import { importPeople } from '@/server/people/invite';

/** Tells what a CSV file of people would do; does it when confirmed. */
export const POST = endpoint('POST /api/people/import', {
  needs: 'person.manage',
  run: ({ tx, access, body, request }) => importPeople(tx, access, body.csv, body.confirm, originOf(request)),
});
