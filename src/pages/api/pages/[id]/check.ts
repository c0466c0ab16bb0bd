import { z } from 'zod';
import { maySee } from '@/server/content/naming';
import { parseContent } from '@/core/content';
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
    const parsed = parseContent(layouts, thing.place?.layout ?? '', body.content);
    if (!parsed.ok) throw new Problem('bad-input', parsed.faults.map((fault) => fault.message).join(' '), { faults: parsed.faults });
    return { findings: await checkContent(tx, access, id, parsed.content, maySee(access)) };
  },
});
