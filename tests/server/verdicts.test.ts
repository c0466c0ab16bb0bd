import { sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { documentOf, emptyDocument, piecesOf, type Document, type PageContent } from '@/core/content';
import type { APIRoute } from 'astro';
import { emptyRole, planSchema, type Plan, type PlanRole } from '@/core/plan';
import { room } from '@/core/room';
import { DEMO_PEOPLE } from '@/demo/people';
import { POST as makeVacancy } from '@/pages/api/vacancies/index';
import { POST as makeNotice } from '@/pages/api/notices/index';
import { POST as endNotice } from '@/pages/api/notices/[id]/end';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as makePage } from '@/pages/api/pages/index';
import { POST as move } from '@/pages/api/pages/[id]/move';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as send } from '@/pages/api/items/[id]/send';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { getEditable } from '@/server/items/editable';
import { findPlaced, listPages, type PageFacts } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { findAccess, findSite, type Access, type Site } from '@/server/gate/access';
import { authorize, authorizeSomewhere } from '@/server/gate/authorize';
import { randomFrom, type Random } from '../oracles/worlds';
import { call, signInAs } from './ask';
import { inventory } from '../inventory';

// A verdict is an assertion, so it is tried: the task is done through the endpoints as that person, on every page there
// is, until it
// works or there is no page left. What was done is taken back by hand between two tries.
const SEED = 20261126;
const PLANS = 300;
let site: Site;
let all: readonly PageFacts[] = [];
/** The drafts there are before anything is tried, with who wrote them. */
let drafts = '[]';
beforeAll(async () => {
  site = (await findSite(db)) as Site;
  // A few pages are enough, and one of each kind: two branches, one below another, with a banner and without, a draft,
  // one that waits, one taken down.
  await db.execute(
    sql`update items set deleted_at = now() where slug not in ('', 'harbours', 'south-quay', 'parking', 'cafe', 'menu', 'about', 'jobs', 'skell-island', 'getting-around')`,
  );
  await db.execute(
    sql`update items set author_id = (select id from people where email = 'ines@larkhaven.example') where slug in ('parking', 'cafe')`,
  );
  await db.execute(sql`delete from drafts where item_id not in (select id from items where slug = 'parking')`);
  await db.execute(
    sql`update items set down_revision_id = live_revision_id, live_revision_id = null where slug = 'menu'`,
  );
  drafts = JSON.stringify((await db.execute(sql`select * from drafts`)).rows);
  all = await listPages(db, site.id);
});

interface Doer {
  cookie: string;
  access: Access;
}
const ok = async (
  route: APIRoute,
  method: string,
  who: Doer,
  params: Record<string, string>,
  body: object,
): Promise<Record<string, unknown> | null> => {
  const answer = await call(route, method, '/x', { cookie: who.cookie, params, body });

  if (answer.status >= 500) throw new Error(`${answer.status} ${answer.body.detail}`);
  return answer.status === 200 ? answer.body : null;
};
/** Whether a screen opens for somebody, asked as the screens' own gate asks. */
async function opens(who: Doer, screenId: string, page?: PageFacts): Promise<boolean> {
  const screen = inventory.screens.get(screenId);
  if (!screen?.needs) return true;
  return (
    screen.on
      ? authorize(db, who.access, screen.needs, page ? { place: page.place } : {})
      : authorizeSomewhere(db, who.access, screen.needs)
  ).then(
    () => true,
    () => false,
  );
}
const restore = async (page: string) => {
  // What somebody wrote in a try before is out: they may look at what others write from now on.
  const newest = sql`(select max(id) from revisions where item_id = items.id)`;
  await db.execute(
    sql`update items set live_revision_id = case when live_revision_id is null then null else ${newest} end, down_revision_id = case when down_revision_id is null then null else ${newest} end where id = ${Number(page)}`,
  );
  await db.execute(sql`delete from drafts where item_id = ${Number(page)}`);
  await db.execute(
    sql`insert into drafts select * from jsonb_populate_recordset(null::drafts, ${drafts}::jsonb) where item_id = ${Number(page)}`,
  );
  await db.execute(
    sql`update reviews set outcome = 'replaced' where item_id = ${Number(page)} and outcome is null and (sent_by = (select id from people where email = 'ines@larkhaven.example') or item_id not in (select id from items where slug = 'getting-around'))`,
  );
};
/** Writes in a page and keeps it, as typing does; gives what is to be handed on. */
async function written(
  who: Doer,
  page: PageFacts,
  waysOf: (shown: PageContent) => readonly object[],
): Promise<{ content: object; version: number } | null> {
  if (!(await opens(who, 'pages.edit', page))) return null;
  const shown = await getEditable(db, inventory, site.id, Number(page.id));
  for (const way of waysOf(shown.content)) {
    const content = { ...shown.content, ...way };
    const kept =
      Object.keys(way).every((id) => id.startsWith('page.') || shown.layout.fields.some((field) => field.id === id)) &&
      (await ok(putDraft, 'PUT', who, { id: page.id }, { content, version: shown.draft?.version ?? 0 }));
    if (kept) return { content, version: Number(kept['version']) };
  }
  return null;
}
const more = (text: Document): Document => ({
  type: 'doc',
  content: [...text.content, { type: 'paragraph', content: [{ type: 'text', text: `Tried ${Math.random()}` }] }],
});
/** More words in a long text of a page, whichever it has. */
const textWays = (shown: PageContent) => [
  ...['body', 'intro'].map((id) => ({ [id]: more(documentOf(shown, id)) })),
  {
    pieces: [
      ...piecesOf(shown, 'pieces'),
      { id: 'tried', region: 'main', heading: 'Tried', text: more(emptyDocument()), picture: null },
    ],
  },
];
/** Something else in any field that can be changed without choosing a picture. */
const anyWays = (shown: PageContent) => [
  ...['summary', 'title', 'hours'].map((id) => ({ [id]: `Tried ${Math.random()}` })),
  ...textWays(shown),
  ...[...inventory.layouts.keys()].map((id) => ({ 'page.layout': id })),
];

/** How each task is done on one page, start to end; true when it was. */
const DO: Record<string, (who: Doer, page: PageFacts) => Promise<boolean>> = {
  'pages.words': async (who, page) => {
    const draft = await written(who, page, textWays);
    const sent =
      draft &&
      (await opens(
        who,
        'pages.edit',
        (await listPages(db, site.id)).find((p) => p.id === page.id),
      ))
        ? await ok(send, 'POST', who, { id: page.id }, { ...draft, note: '' })
        : null;
    await restore(page.id);
    return sent !== null;
  },
  'pages.publish': async (who, page) => {
    const draft = await written(who, page, anyWays);
    const out =
      draft &&
      (await opens(
        who,
        'pages.edit',
        (await listPages(db, site.id)).find((p) => p.id === page.id),
      ))
        ? await ok(publish, 'POST', who, { id: page.id }, { ...draft, note: '' })
        : null;
    await restore(page.id);
    return out !== null;
  },
  'pages.make': async (who, page) => {
    let made: Record<string, unknown> | null = null;
    for (const layout of inventory.layouts.keys())
      made ??= await ok(makePage, 'POST', who, {}, { parent: Number(page.id), layout, title: 'Tried' });
    if (made) await db.execute(sql`update items set deleted_at = now() where id = ${Number(made['id'])}`);
    return made !== null;
  },
  'pages.arrange': async (who, page) =>
    page.parent !== null &&
    (await opens(who, 'pages.edit', page)) &&
    (await ok(move, 'POST', who, { id: page.id }, { parent: Number(page.parent), index: 0, dry: true })) !== null,
  'pages.retire': async (who, page) => {
    if (page.parent === null || !(await opens(who, 'pages.edit', page))) return false;
    const gone = await ok(retire, 'POST', who, { id: page.id }, { do: 'delete' });
    if (gone)
      await db.execute(
        sql`update items set deleted_at = null, deleted_by = null where path <@ (select path from items where id = ${Number(page.id)}) and id in (${sql.join(
          all.map((p) => sql`${Number(p.id)}`),
          sql`, `,
        )})`,
      );
    return gone !== null;
  },
  // On that page alone, as its form has it for whoever may not post on all below.
  'notices.post': async (who, page) =>
    (await ok(makeNotice, 'POST', who, {}, { text: 'Tried', kind: 'information', page: page.id, alone: true })) !==
    null,
  'notices.end': async (who, page) => {
    for (const by of [Number(who.access.who.id), null]) {
      const { rows } = await db.execute<{ id: number }>(
        sql`insert into notices (site_id, page_id, alone, kind, text, starts_at, posted_by) values (${site.id}, ${Number(page.id)}, true, 'warning', 'Tried', now(), ${by}) returning id`,
      );
      const seen = await authorize(db, who.access, 'notice.view', {
        place: { ...page.place, author: by === null ? null : String(by) },
      }).then(
        () => true,
        () => false,
      );
      if (seen && (await ok(endNotice, 'POST', who, { id: String(rows[0]?.id) }, {})) !== null) return true;
    }
    return false;
  },
  'vacancies.write': async (who, page) => {
    const made = await ok(makeVacancy, 'POST', who, {}, { title: 'Tried', page: page.id });
    if (!made) return false;
    const id = String(made['id']);
    const placed = await findPlaced(db, site.id, Number(id));
    const sees = await authorize(db, who.access, 'vacancy.view', placed).then(
      () => true,
      () => false,
    );
    const kept = await ok(putDraft, 'PUT', who, { id }, { content: { closes: '2090-01-01' }, version: 1 });
    const sent = kept && sees ? await ok(send, 'POST', who, { id }, { content: {}, version: 2, note: '' }) : null;
    await db.execute(sql`update items set deleted_at = now() where id = ${Number(id)}`);
    return sent !== null;
  },
  'review.decide': async (who, page) => {
    const maud = await signInAs('Maud');
    await restore(page.id);
    const shown = await getEditable(db, inventory, site.id, Number(page.id));
    const waiting =
      shown.waiting?.id ??
      Number(
        (
          await ok(
            send,
            'POST',
            { cookie: maud.cookie, access: who.access },
            { id: page.id },
            {
              content: { ...shown.content, summary: `Sent ${Math.random()}` },
              version: shown.draft?.version ?? 0,
              note: '',
            },
          )
        )?.['review'] ?? 0,
      );
    if (waiting === 0) return false;
    const place = (await listPages(db, site.id)).find((p) => p.id === page.id);
    const can =
      place &&
      (await opens(who, 'review.look', place)) &&
      (await ok(decide, 'POST', who, { id: String(waiting) }, { outcome: 'published', word: '' })) !== null;
    await restore(page.id);
    return can === true;
  },
};
const TASKS = Object.keys(DO);

/** A role that may anything, more or less, on any part of it. */
function randomRole(random: Random, id: string): PlanRole {
  const { oneOf, chance } = random;
  const pages = all.map((page) => page.id);
  const scope = () => ({
    ...(chance(0.45) && { branch: oneOf(pages), ...(chance(0.3) && { only: true as const }) }),
    ...(chance(0.12) && { own: true as const }),
    ...(chance(0.1) && { layouts: ['plain'] }),
    ...(chance(0.15) && { states: [oneOf(['draft', 'published', 'waiting', 'down'] as const)] }),
  });
  const grants = [
    'page.view',
    'page.edit',
    'page.send',
    'page.publish',
    'page.create',
    'page.arrange',
    'page.retire',
    'notice.view',
    'notice.post',
    'notice.end',
    'review.view',
    'review.decide',
    'vacancy.view',
    'vacancy.create',
    'vacancy.edit',
    'vacancy.send',
  ].flatMap((permission, i) => [
    ...(chance(0.8)
      ? [
          {
            id: `a${i}`,
            effect: 'allow' as const,
            permission,
            scope: {
              ...scope(),
              ...(permission === 'page.edit' &&
                chance(0.3) && {
                  fields: [oneOf(['body', 'title', 'hours', 'banner', 'page.layout']), oneOf(['pieces', 'summary'])],
                }),
            },
          },
        ]
      : []),
    ...(chance(0.1) ? [{ id: `d${i}`, effect: 'deny' as const, permission, scope: scope() }] : []),
  ]);
  return {
    ...emptyRole(),
    id,
    name: id,
    purpose: '',
    grants,
    tasks: TASKS.map((task) => ({ task })),
    doors: inventory.doors.map((section) => ({
      section: section.id,
      state: chance(0.85) ? ('open' as const) : oneOf(['look', 'away', 'closed'] as const),
    })),
  };
}
async function inForce(plan: Plan): Promise<void> {
  const { rows } = await db.execute<{ id: number }>(
    sql`insert into releases (site_id, number, plan, note) values (${site.id}, (select max(number) + 1 from releases), ${JSON.stringify(plan)}::jsonb, '') returning id`,
  );
  await db.execute(sql`update sites set live_release_id = ${rows[0]?.id}`);
}

async function tried(task: string, who: Doer, screens: boolean): Promise<string | null> {
  if (!screens) return null;
  for (const page of all) if (await DO[task]?.(who, page)) return page.address;
  return null;
}
async function compare(who: Doer, when: string): Promise<number> {
  const made = room({
    inventory,
    plan: who.access.plan,
    person: who.access.who,
    places: (await listPages(db, site.id)).map((page) => page.place),
    nowMs: Date.now(),
  });
  let can = 0;
  for (const task of made.tasks.filter((one) => TASKS.includes(one.task))) {
    const template = inventory.tasks.get(task.task);
    const way = [
      ...new Set([
        template?.screen ?? '',
        ...(template?.moves ?? []).map((one) => inventory.controls.get(one.control)?.screen ?? ''),
      ]),
    ].filter((id) => !inventory.screens.get(id)?.on);
    const screens = (await Promise.all(way.map((id) => opens(who, id)))).every(Boolean);
    const done = await tried(task.task, who, screens);
    expect(
      task.verdict.can,
      `${when}: ${task.task} ${done === null ? 'cannot be done' : `can be done on ${done}`}, and the verdict says ${JSON.stringify(task.verdict)}`,
    ).toBe(done !== null);
    if (done !== null) can++;
  }
  return can;
}

describe('a task that can be done is done', () => {
  it('by everybody of the demo, as far as the verdict says', async () => {
    let can = 0;
    for (const { name } of DEMO_PEOPLE) {
      const { cookie, token } = await signInAs(name.split(' ')[0] ?? '');
      const access = await findAccess(db, token);
      if (access) can += await compare({ cookie, access }, name);
    }
    expect(can).toBeGreaterThan(8);
  });
  it(`by somebody with a random role, in ${PLANS} plans (seed ${SEED})`, async () => {
    const live = (await findAccess(db, (await signInAs('Maud')).token))?.plan;
    if (!live) throw new Error('no plan');
    let [can, cannot] = [0, 0];
    for (let n = 0; n < PLANS; n++) {
      const random = randomFrom(SEED + n);
      const plan = planSchema.parse({
        ...live,
        roles: [...live.roles.filter((role) => role.id !== 'harbour-desk'), { ...randomRole(random, 'harbour-desk') }],
        apart: [],
        screens: [],
        words: [],
      });
      await inForce(plan);
      const { cookie, token } = await signInAs('Ines');
      const access = await findAccess(db, token);
      if (!access) throw new Error('no access');
      // One task a plan, a different one each time: all of them on every page would take long.
      const task = TASKS[n % TASKS.length] ?? '';
      const narrowed: Access = {
        ...access,
        plan: {
          ...access.plan,
          roles: access.plan.roles.map((role) => ({ ...role, tasks: role.tasks.filter((one) => one.task === task) })),
        },
      };
      const done = await compare({ cookie, access: narrowed }, `plan ${SEED + n}`);
      if (done > 0) can++;
      else cannot++;
    }
    expect(
      [can, cannot].every((count) => count > 60),
      `${can} could, ${cannot} could not`,
    ).toBe(true);
  });
});
