import { listVacancies } from '@/server/vacancies/vacancies';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { APIRoute } from 'astro';
import { sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { rulesAllow, rulesFor } from '@/core/access';
import { DEMO_PEOPLE } from '@/demo/people';
import { mayVisit } from '@/server/gate/authorize';
import { listPages, type PageFacts } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { findSite, type Access, type Site } from '@/server/gate/access';
import { accessOf, call, signInAs } from './ask';

// One rule for everything that answers: no word of a thing somebody may not see. Each page gets a word of its own in
// all that can be
// read of it, so that any answer that holds the word has told of the page.
const ROOT = join(import.meta.dirname, '../../src/pages/api');
let site: Site;
let all: readonly PageFacts[] = [];
const wordOf = (id: string) => `zq${id}qz`;
const words = (text: string): Set<string> => new Set([...text.matchAll(/zq(\d+)qz/g)].map((found) => found[1] ?? ''));
/** Pages whose part of an address is told; the address of a page one knows tells of those above it, too. */
const parts = (text: string): Set<string> => new Set([...text.matchAll(/zs(\d+)sz/g)].map((found) => found[1] ?? ''));

beforeAll(async () => {
  site = (await findSite(db)) as Site;
  // Some pages only members may visit, one only a role, one never published, one taken down, one deleted.
  await db.execute(sql`update items set audience = '{"kind":"members"}' where slug = 'fares'`);
  await db.execute(
    sql`update items set audience = '{"kind":"roles","roles":["second-look"]}' where slug = 'timetable'`,
  );
  await db.execute(
    sql`update items set down_revision_id = live_revision_id, live_revision_id = null where slug = 'port-ennis'`,
  );
  await db.execute(sql`update items set live_revision_id = null where slug = 'history'`);
  await db.execute(
    sql`update items set short_name = coalesce(short_name, slug) || ' zq' || id || 'qz', slug = case when parent_id is null then slug else slug || '-zs' || id || 'sz' end`,
  );
  await db.execute(
    sql`update drafts set content = content || jsonb_build_object('title', content->>'title' || ' zq' || item_id || 'qz')`,
  );
  // What was written once cannot be changed: a new revision in the place of each that is live.
  await db.execute(
    sql`insert into revisions (site_id, item_id, number, content, kind, note) select r.site_id, r.item_id, 900, r.content || jsonb_build_object('title', r.content->>'title' || ' zq' || r.item_id || 'qz', 'summary', 'About zq' || r.item_id || 'qz'), 'published', '' from items p join revisions r on r.id = coalesce(p.live_revision_id, p.down_revision_id)`,
  );
  await db.execute(
    sql`update items p set live_revision_id = (select id from revisions r where r.item_id = p.id and r.number = 900) where live_revision_id is not null`,
  );
  await db.execute(
    sql`update items p set down_revision_id = (select id from revisions r where r.item_id = p.id and r.number = 900) where down_revision_id is not null`,
  );
  await db.execute(sql`update items set deleted_at = now() where slug like 'lost%'`);
  all = await listPages(db, site.id);
});

/** Ids of pages somebody may know of: theirs to look at in the back office, or on the website and theirs to visit. */
function known(access: Access): Set<string> {
  const rules = rulesFor(access.policy, access.who.id, 'page.view', Date.now());
  return new Set(
    all
      .filter(
        (page) =>
          rulesAllow(rules, access.who.id, { place: page.place }) || (page.live && mayVisit(access, page.place)),
      )
      .map((page) => page.id),
  );
}

/**
 * Every endpoint that can answer with what a page is called, asked in a way that changes nothing. The rest of them are
 * named in `NOTHING_TO_TELL`.
 */
const link = {
  content: {
    title: 'x',
    body: {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: '/nowhere' } }] }],
        },
      ],
    },
  },
};
const ASKED: [file: string, method: string, body: object][] = [
  ['ask.ts', 'GET', {}],
  ['pages/list.ts', 'GET', {}],
  ['pages/tree.ts', 'GET', {}],
  ['pages/targets.ts', 'GET', {}],
  ['pages/pick.ts', 'GET', {}],
  ['pages/bulk.ts', 'POST', { bulk: { do: 'delete' }, dry: true }],
  ['pages/bulk.ts', 'POST', { bulk: { do: 'navigation', shown: true }, dry: true }],
  ['items/[id]/changes.ts', 'GET', {}],
  ['items/[id]/content.ts', 'GET', {}],
  ['pages/[id]/address.ts', 'GET', {}],
  ['items/[id]/versions/[revision].ts', 'GET', {}],
  ['items/[id]/check.ts', 'POST', link],
  ['items/[id]/retire.ts', 'POST', { do: 'look' }],
  ['items/[id]/presence.ts', 'POST', { typing: false, leaving: true }],
  ['items/[id]/draft.ts', 'PUT', { content: { title: 'x' }, version: 99 }],
  ['pages/[id]/copy.ts', 'POST', { nothing: true }],
  ['items/[id]/schedule.ts', 'POST', { at: '2001-01-01T10:00' }],
  ['review/[id]/decide.ts', 'POST', { outcome: 'sent-back', word: '' }],
  ['review/[id]/look.ts', 'GET', {}],
  ['review/[id]/remarks.ts', 'POST', { settle: 99999, settled: true }],
];
const NOTHING_TO_TELL =
  /^(sign-|set-up|own-|workshop|access|duties|people|activity|notices|pictures|tours)|pages\/(filters|index|take-back)|vacancies\/index|\[id\]\/(aside|audience|bring-back|drop|move|notes|preview-link|publish|send)/;

describe('no answer tells more than the gate', () => {
  it('asks every endpoint that could', () => {
    const files = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
      (f) => f.endsWith('.ts') && !NOTHING_TO_TELL.test(f),
    );
    expect([...new Set(ASKED.map(([file]) => file))].sort()).toEqual(files.sort());
  });
  it('knows the pages by their words', () => {
    expect(all.length).toBeGreaterThan(18);
    expect([...words(JSON.stringify(all.map((page) => [page.title, page.shortName])))].sort()).toEqual(
      all.map((page) => page.id).sort(),
    );
  });
  it.each(DEMO_PEOPLE.map((person) => person.name.split(' ')[0] ?? ''))('of any page, to %s', async (first) => {
    const access = await accessOf(first);
    const may = new Set([...known(access), ...(await listVacancies(db, access)).map((vacancy) => vacancy.id)]);
    const { cookie } = await signInAs(first);
    const everyId = (await db.execute<{ id: number }>(sql`select id from items order by id`)).rows.map((row) => row.id);
    const reviews = (await db.execute<{ id: number }>(sql`select id from reviews`)).rows.map((row) => row.id);
    const ask = async (file: string, method: string, id: number, query: string, body: object) => {
      const route = ((await import(join(ROOT, file))) as Record<string, APIRoute>)[method];
      if (!route) throw new Error(`${file} has no ${method}`);
      const answer = await call(route, method, `/x${query}`, {
        cookie,
        body,
        params: { id: String(id), revision: '1' },
      });
      const text = JSON.stringify(answer.body);
      const told = [
        ...[...words(text)].filter((page) => !may.has(page)),
        ...[...parts(text)].filter((page) => !inAddresses.has(page)),
      ];
      expect(told, `${method} ${file} ${id} ${query} told ${first} of ${told.map(wordOf).join()}`).toEqual([]);
      answers++;
    };
    const inAddresses = new Set(all.filter((page) => may.has(page.id)).flatMap((page) => [...parts(page.address)]));
    let answers = 0;
    for (const [file, method, body] of ASKED) {
      if (file.includes('[id]'))
        for (const id of file.startsWith('review') ? reviews : everyId) await ask(file, method, id, '', body);
      else if (method === 'GET')
        for (const query of [
          '',
          '?for=notice.post',
          ...['zq', 'a', 'boat', 'harbour'].map((q) => `?q=${q}`),
          ...(file.includes('list') ? [] : everyId.map((id) => `?below=${id}`)),
        ])
          await ask(file, method, 0, query, body);
      else await ask(file, method, 0, '', file.includes('bulk') ? { ids: everyId, ...body } : body);
    }
    expect(answers).toBeGreaterThan(150);
  });
});
