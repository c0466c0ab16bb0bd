import { z } from 'zod';
import { maySee } from '@/server/content/naming';
import { readContent } from '@/core/content';
import { layouts } from '@/office';
import { checkContent } from '@/server/content/publishing';
import { endpoint } from '@/server/gate/endpoint';
import { Problem } from '@/server/gate/problems';

/** What may be wrong with what is on the screen. */
export const POST = endpoint({
  needs: 'page.edit',
  on: 'page',
  body: z.strictObject({ content: z.unknown() }),
  run: async ({ tx, access, id, body, thing }) => {
    // What is not right yet is told at its field; everything else is looked at all the same.
    const read = readContent(layouts, thing.place?.layout ?? '', body.content);
    if (!read)
      throw new Problem('bad-input', 'Nothing was sent.', { faults: [{ field: '', message: 'Nothing was sent.' }] });
    return { findings: await checkContent(tx, access, id, read.content, maySee(access)) };
  },
});
