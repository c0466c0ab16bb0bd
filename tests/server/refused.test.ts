import type { APIRoute } from 'astro';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { POST as bringBack } from '@/pages/api/items/[id]/bring-back';
import { PUT as keep } from '@/pages/api/items/[id]/draft';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as send } from '@/pages/api/items/[id]/send';
import { POST as postNotice } from '@/pages/api/notices/index';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { POST as takeBack } from '@/pages/api/pages/take-back';
import { POST as pause } from '@/pages/api/people/[id]/pause';
import { POST as importPeople } from '@/pages/api/people/import';
import { POST as move } from '@/pages/api/people/move';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as remark } from '@/pages/api/review/[id]/remarks';
import { GET as exportPlan } from '@/pages/api/workshop/export';
import { POST as history } from '@/pages/api/workshop/history';
import { POST as importPlan } from '@/pages/api/workshop/import';
import { POST as change } from '@/pages/api/workshop/plan';
import { POST as goLive } from '@/pages/api/workshop/release';
import { POST as goBack } from '@/pages/api/workshop/return';
import type { Operation } from '@/core/plan';
import { db } from '@/server/db/client';
import { assignments, items, people, reviews, schedules } from '@/server/db/schema';
import { settleDue } from '@/server/items/due';
import { getEditable } from '@/server/items/editable';
import { getPlanState } from '@/server/plan/plans';
import { call, inForce, pageId, role, siteId, signInAs, somebody, type Who } from './ask';
import { inventory } from '../inventory';

/** What is refused where nothing else shows it: the sentence comes whole, and nothing has changed. */
const ask = async (who: Who, route: APIRoute, body: unknown, id?: string | number, method = 'POST') => {
  const answer = await call(route, method, '/x', {
    ...who,
    body,
    ...(id !== undefined && { params: { id: String(id) } }),
  });
  return { code: answer.body.code, said: String(answer.body.detail), ...answer };
};
const revisionNow = async () =>
  (await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).revision;

describe('pages', () => {
  it('what is back cannot be brought back; the first page is not copied', async () => {
    const maud = await signInAs('Maud');
    const id = await pageId('Left luggage');
    expect((await ask(maud, retire, { do: 'delete' }, id)).status).toBe(200);
    expect((await ask(maud, bringBack, {}, id)).status).toBe(200);
    const again = await ask(maud, takeBack, { steps: [{ do: 'bring-back', page: id }] });
    expect([again.status, again.code]).toEqual([409, 'back-already']);
    const first = await ask(maud, copy, { withBelow: false }, await pageId('Three harbours, one short crossing'));
    expect(first.code).toBe('first-page-copied');
  });

  it('a layout outside one’s own is not chosen; authorship that gives another person more is not given', async () => {
    await inForce(
      ...role('plain-pages'),
      ...(['page.view', 'page.edit'] as const).map((permission): Operation => ({
        do: 'add-grant',
        role: 'plain-pages',
        grant: { id: permission.slice(5), effect: 'allow', permission, scope: { layouts: ['plain'] } },
      })),
      ...role('own-publisher', 'page.view'),
      {
        do: 'add-grant',
        role: 'own-publisher',
        grant: { id: 'own', effect: 'allow', permission: 'page.publish', scope: { own: true } },
      },
    );
    const pat = await somebody('Pat', { role: 'plain-pages' });
    const opal = await somebody('Opal', { role: 'own-publisher' });
    const id = await pageId('Left luggage');
    const { content } = await getEditable(db, inventory, await siteId(), id);
    const layout = await ask(pat, keep, { content: { ...content, 'page.layout': 'banner' }, version: 0 }, id, 'PUT');
    expect([layout.status, layout.code]).toEqual([422, 'layout-not-yours']);
    const author = await ask(
      pat,
      keep,
      { content: { ...content, 'page.author': String(opal.id) }, version: 0 },
      id,
      'PUT',
    );
    expect([author.status, author.code]).toEqual([422, 'authorship-gives-them-more']);
    expect((await getEditable(db, inventory, await siteId(), id)).draft).toBeNull();
  });

  it('a draft that was sent anew is not decided on as it was; a remark answers one that is there', async () => {
    const [ines, priya] = [await signInAs('Ines'), await signInAs('Priya')];
    const id = await pageId('Port Ennis');
    const sent = async (summary: string) => {
      const { content, draft } = await getEditable(db, inventory, await siteId(), id);
      const answer = await ask(
        ines,
        send,
        { content: { ...content, summary }, version: draft?.version ?? 0, note: 'A word.' },
        id,
      );
      expect(answer.status).toBe(200);
      const rows = await db.select().from(reviews).where(eq(reviews.itemId, id));
      return Math.max(...rows.map((row) => row.id));
    };
    const older = await sent('One more ferry.');
    const newer = await sent('Two more ferries.');
    const late = await ask(priya, decide, { outcome: 'published', word: '' }, older);
    expect([late.status, late.code]).toEqual([409, 'newer-sent']);
    const nowhere = await ask(
      priya,
      remark,
      { field: 'summary', quote: '', text: 'Which ones?', answers: 999_999 },
      newer,
    );
    expect(nowhere.code).toBe('remark-gone');
    expect((await getEditable(db, inventory, await siteId(), id)).live?.['summary']).not.toContain('more ferr');
  });

  it('a notice that would end before anybody reads it is not posted', async () => {
    const ended = await ask(await signInAs('Ines'), postNotice, {
      text: 'No boats this morning.',
      kind: 'information',
      from: '2024-01-01T08:00',
      until: '2024-01-02T08:00',
      page: String(await pageId('Harbours')),
    });
    expect(ended.body).toMatchObject({ faults: [{ field: 'until' }] });
    expect(ended.code).toBe('ends-past');
  });
});

describe('what was planned', () => {
  const later = new Date(Date.now() - 60_000);
  /** Plans something that is due, in somebody’s name; gives why it failed. */
  const due = async (what: 'publish' | 'take-down', item: number, madeBy: number | null) => {
    const [made] = await db
      .insert(schedules)
      .values({ siteId: await siteId(), itemId: item, what, dueAt: later, madeBy })
      .returning({ id: schedules.id });
    await settleDue(db, true);
    const [row] = await db
      .select()
      .from(schedules)
      .where(eq(schedules.id, made?.id ?? 0));
    expect(row?.doneAt).not.toBeNull();
    return row?.failed;
  };

  it('is not done for somebody who is gone, or may not any more, nor with what is gone; each says so', async () => {
    const item = await pageId('Fares');
    const maud = await signInAs('Maud');
    await inForce(...role('looker', 'page.view'));
    const nell = await somebody('Nell', { role: 'looker' });
    expect(await due('publish', item, null)).toBe('Whoever planned this is not there any more.');
    expect(await due('publish', item, nell.id)).toBe('Nell, who planned this, may not publish it any more.');
    expect(await due('take-down', item, nell.id)).toBe(
      'Nell, who planned this, may not take it and all below it down any more.',
    );
    expect(await due('publish', item, maud.id)).toBe('What was to be published is not there any more.');
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, nell.id));
    expect(await due('publish', item, nell.id)).toBe('Nell, who planned this, is paused.');
    await db.update(items).set({ deletedAt: new Date() }).where(eq(items.id, item));
    expect(await due('take-down', item, maud.id)).toBe('It was deleted before its time came.');
    await db.update(items).set({ deletedAt: null }).where(eq(items.id, item));
    expect((await getEditable(db, inventory, await siteId(), item)).live).not.toBeNull();
  });
});

describe('people', () => {
  it('who is not paused is not let in again; holders do not move to the role they hold', async () => {
    const maud = await signInAs('Maud');
    const lotte = await ask(maud, pause, { paused: false }, (await signInAs('Lotte')).id);
    expect([lotte.status, lotte.said]).toEqual([409, 'Lotte Brand is not paused.']);
    const before = await db.select().from(assignments);
    expect((await ask(maud, move, { from: 'harbour-desk', to: 'harbour-desk' })).code).toBe('same-role');
    expect(await db.select().from(assignments)).toEqual(before);
  });

  it('a file without a line, or with too many, is not taken', async () => {
    const maud = await signInAs('Maud');
    expect((await ask(maud, importPeople, { csv: '\n', confirm: false })).code).toBe('columns-unnamed');
    const lines = Array.from({ length: 2001 }, (_, i) => `Somebody ${i},s${i}@larkhaven.example,harbour-desk`);
    const long = await ask(maud, importPeople, { csv: ['name,email,role', ...lines].join('\n'), confirm: true });
    expect([long.code, long.said]).toEqual(['file-too-long', expect.stringContaining('2001')]);
    expect(await db.$count(people, eq(people.email, 's1@larkhaven.example'))).toBe(0);
  });
});

describe('the plan', () => {
  const prepare = async (who: Who, forRole: string, operations: Operation[]) => {
    const answer = await ask(who, change, { revision: await revisionNow(), role: forRole, operations });
    expect(answer.status).toBe(200);
  };

  it('what others are built upon does not go live alone, and is not undone under them', async () => {
    const maud = await signInAs('Maud');
    await prepare(maud, 'base', [{ do: 'add-role', role: 'base', name: 'Base', purpose: '' }]);
    await prepare(maud, 'upper', [
      { do: 'add-role', role: 'upper', name: 'Upper', purpose: '' },
      { do: 'set-extends', role: 'upper', extends: ['base'] },
    ]);
    const alone = await ask(maud, goLive, { revision: await revisionNow(), note: '', roles: ['upper'] });
    expect([alone.status, alone.code]).toEqual([422, 'needs-others']);
    const undone = await ask(maud, history, { role: 'base', direction: 'undo' });
    expect([undone.status, undone.code]).toEqual([422, 'built-upon']);
    const { plan } = await getPlanState(db, inventory, await siteId(), { personId: maud.id, role: null });
    expect(plan.roles.filter(({ id }) => ['base', 'upper'].includes(id)).length).toBe(2);
  });

  it('a file that says what is prepared already is told so; there is no going back to what never was', async () => {
    const maud = await signInAs('Maud');
    const { body } = await call(exportPlan, 'GET', '/x', maud);
    const revision = await revisionNow();
    const same = await ask(maud, importPlan, { text: String(body['text']), confirm: revision });
    expect([same.status, same.code]).toEqual([409, 'plan-file-same']);
    const never = await ask(maud, goBack, { revision, to: 4_711 });
    expect(never.code).toBe('no-release');
    expect(await revisionNow()).toBe(revision);
  });
});
