import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { originOf } from '@/server/gate/origin';
import { importPeople } from '@/server/people/invite';

/** Tells what a CSV file of people would do; does it when confirmed. */
export const POST = endpoint({
  needs: 'person.manage',
  body: z.strictObject({
    csv: z.string().min(1, 'The file is empty.').max(1_000_000, 'The file is too large; 1 MB is the most.'),
    confirm: z.boolean(),
  }),
  run: ({ tx, access, body, request }) => importPeople(tx, access, body.csv, body.confirm, originOf(request)),
});
