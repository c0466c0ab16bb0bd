import { z } from 'zod';
import { removeFilter, saveFilter } from '@/server/pages/filters';
import { filterSchema } from '@/server/pages/listing';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps a filter of the list of pages under a name, or with a null query forgets it. */
export const POST = endpoint({
  needs: 'signed-in',
  body: z.strictObject({ name: z.string().trim().min(1, 'Give it a name.').max(60), filter: filterSchema.nullable() }),
  run: ({ tx, access, body }) =>
    body.filter ? saveFilter(tx, access, body.name, body.filter) : removeFilter(tx, access, body.name),
});
