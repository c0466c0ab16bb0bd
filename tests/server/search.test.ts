import { describe, expect, it } from 'vitest';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { getEditable } from '@/server/items/editable';
import { mayVisit } from '@/server/gate/authorize';
import { searchPages } from '@/server/tree/search';
import { listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { accessOf, call, pageId, signInAs, siteId } from './ask';
import { inventory } from '../inventory';

const search = async (asked: string, who: string | null = null) => {
  const access = who === null ? undefined : await accessOf(who);
  return searchPages(
    db,
    (await listPages(db, await siteId())).filter((page) => mayVisit(access, page.place)),
    asked,
  );
};
const titles = async (asked: string, who: string | null = null) =>
  (await search(asked, who)).map((f) => f.page.liveTitle);

describe('searching the website', () => {
  it('finds words in titles, summaries and texts, by their stem, titles first', async () => {
    expect((await titles('timetables'))[0]).toBe('Timetable');
    expect(await titles('paddle steamer')).toEqual(['Our history']);
    expect(await titles('ferries sailing')).toContain('Three harbours, one short crossing');
  });
  it('knows what PostgreSQL’s web search syntax knows: a phrase in quotes, a word that shall not be there', async () => {
    expect(await titles('"paddle steamer"')).toEqual(['Our history']);
    expect(await titles('steamer -paddle')).toEqual([]);
  });
  it('forgives typing errors where nothing fits as it is written', async () => {
    expect((await titles('timtable'))[0]).toBe('Timetable');
    expect(await titles('xqzzv')).toEqual([]);
  });
  it('shows a few words around what was found, marked, and as text whatever was asked', async () => {
    const [found] = await search('steamer');
    expect(found?.excerpt.filter((_, i) => i % 2 === 1)).toEqual(['steamer']);
    expect(found?.excerpt.join('')).toContain('paddle steamer');
    // Words stand in their order, each once.
    const [fares] = await search('whichever boat');
    expect(fares?.excerpt.join('')).toMatch(/whichever boat\. Children under six sail free/);
    const [cake] = await search('cake friday');
    expect(cake).toBeUndefined();
    const [crossing] = await search('crate of hens');
    expect(crossing?.excerpt.join('').match(/crate of hens/g)).toHaveLength(1);
    for (const asked of [
      '<script>alert(1)</script>',
      "'; drop table items; --",
      '\\',
      '((',
      '&|!',
      ' ',
      'x'.repeat(500),
    ])
      expect(Array.isArray(await search(asked)), asked).toBe(true);
  });
  it('finds only what somebody may visit, and only what is published', async () => {
    expect(await titles('rosters')).toEqual([]);
    expect(await titles('rosters', 'Sam')).toEqual(['For the crew']);
    // Stands in a draft of the page about parking.
    expect(await titles('drains cleaned')).toEqual([]);
  });
  // Stems by the Snowball stemmers of PostgreSQL (documentation, chapter 12.6.6): German "Fähren" and "Fähre", where
  // English knows no such ending; Welsh has none, so that its words are found as they are written.
  it('reads each page in its own language', async () => {
    const maud = await signInAs('Maud');
    const say = async (title: string, language: string, text: string) => {
      const params = { id: String(await pageId(title)) };
      const { content } = await getEditable(db, inventory, await siteId(), Number(params.id));
      const answer = await call(publish, 'POST', '/x', {
        cookie: maud.cookie,
        params,
        body: { content: { ...content, 'page.language': language, summary: text }, version: 0, note: '' },
      });
      expect(answer.status).toBe(200);
    };
    await say('Season tickets', 'de', 'Alle Fähren und die Überfahrten der Inseln.');
    await say('School boat', 'cy', 'Mae’r cychod yn hwylio bob dydd.');
    expect(await titles('Fähre')).toEqual(['Season tickets']);
    expect(await titles('die Insel')).toEqual(['Season tickets']);
    expect(await titles('cychod')).toEqual(['School boat']);
    expect((await titles('timetables'))[0]).toBe('Timetable');
  });
});
