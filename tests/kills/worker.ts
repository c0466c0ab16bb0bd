// A process that works on pages until it is killed: started by kills.test.ts with the database in its environment. Each line it writes
// tells what it is about to do; nothing is told of whether it was done.
import { getEditablePage, saveDraft } from '@/server/content/drafts';
import { doWithMany } from '@/server/content/bulk';
import { publishDraft } from '@/server/content/reviews';
import { bringBack, deletePage } from '@/server/content/retire';
import { movePage } from '@/server/content/structure';
import { db } from '@/server/db/client';
import { findAccessOfKeyholder, findSite } from '@/server/gate/access';

const [ids = [], homes = []] = JSON.parse(process.env['KILL_PAGES'] ?? '[]') as number[][];
const say = (words: string) => process.stdout.write(`${words}\n`);

async function work(): Promise<void> {
  const site = await findSite(db);
  if (!site) throw new Error('no site');
  const access = await findAccessOfKeyholder(db, site);
  for (let i = 0; ; i++) {
    const id = ids[i % ids.length] ?? 0;
    const other = homes[i % homes.length] ?? 0;
    const page = await getEditablePage(db, site.id, id);
    const content = { ...page.content, summary: `Summary ${process.pid} ${i}` };
    say(`save ${id}`);
    const { version } = await db.transaction((tx) => saveDraft(tx, access, id, { content, version: page.draft?.version ?? 0 }));
    say(`publish ${id}`);
    await db.transaction((tx) => publishDraft(tx, access, id, { content, version, note: '' }));
    say(`move ${id}`);
    await db.transaction((tx) => movePage(tx, access, { page: id, parent: other, index: 0, redirect: true }));
    say(`bulk ${ids.join(' ')}`);
    await db.transaction((tx) => doWithMany(tx, access, ids, { do: 'navigation', shown: i % 2 === 0 }));
    say(`delete ${id}`);
    await db.transaction((tx) => deletePage(tx, access, id));
    say(`restore ${id}`);
    await db.transaction((tx) => bringBack(tx, access, id));
  }
}
say('ready');
// Begins when it is told to, so that starting it costs no time between two kills.
process.stdin.once('data', () => void work().catch((error: unknown) => {
  say(`ended ${error instanceof Error ? error.message : 'for an unknown reason'}`);
  process.exit(1);
}));
