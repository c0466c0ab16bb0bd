import { eq } from 'drizzle-orm';
import { documentOf, emptyDocument, withHrefs, type PageContent } from '@/core/content';
import type { Db } from '@/server/db/client';
import { activity, assignments, duties, media, notices, reviews, sites } from '@/server/db/schema';
import { hashPassword } from '@/server/gate/password';
import { beginDraft } from '@/server/items/begin';
import { keepBlob } from '@/server/pictures/pictures';
import { installPlan } from '@/server/plan/plans';
import type { DemoPage } from './page';
import { HOME } from './pages';
import { DEMO_PEOPLE } from './people';
import { demoDuties } from './duties';
import { demoVacancies } from './vacancies';
import { PICTURES } from './pictures';
import { demoPlan } from './plan';
import { startPlan } from './startPlan';
import { p } from './write';
import { addPerson } from '@/server/people/accounts';
import type { ItemRow } from '@/server/items/forms';
import { addPage, publish, demoContent, DAY_MS, addVacancy, addDemoRevision } from './put';
import { inventoryOf } from '@/office';
import { DEMO_SITE } from './site';

/** An empty site: one page, one plan, nobody yet. */
export async function seedEmpty(db: Db, at: Date): Promise<{ siteId: number }> {
  return db.transaction(async (tx) => {
    const [site] = await tx.insert(sites).values({ name: 'New site', timeZone: 'Europe/London' }).returning();
    if (!site) throw new Error('the site was not written');
    const inventory = inventoryOf(site);
    const home = await addPage(
      tx,
      site.id,
      { parent: null, position: 0, authorId: null, day: at },
      { slug: '', layout: 'plain', shortName: 'Home' },
    );
    await publish(
      tx,
      inventory,
      home,
      demoContent(inventory, home, {
        title: 'Welcome',
        summary: 'This website is being prepared.',
        body: emptyDocument(),
      }),
    );
    await installPlan(tx, site.id, startPlan(inventory));
    return { siteId: site.id };
  });
}

/** Larkhaven Ferries: people, pictures, pages, plan, notices and some work under way. */
export async function seedDemo(db: Db, at: Date): Promise<{ siteId: number }> {
  const hashes = await Promise.all(DEMO_PEOPLE.map((person) => hashPassword(person.password)));
  const ago = (days: number) => new Date(at.getTime() - days * DAY_MS);
  return db.transaction(async (tx) => {
    const [site] = await tx
      .insert(sites)
      .values({ ...DEMO_SITE, demo: true })
      .returning();
    if (!site) throw new Error('the site was not written');
    const inventory = inventoryOf(site);
    const siteId = site.id;
    const rows: { id: number; name: string }[] = [];
    for (const [i, { name, email, seen }] of DEMO_PEOPLE.entries())
      rows.push({
        name,
        id: await addPerson(tx, {
          siteId,
          name,
          email,
          passwordHash: hashes[i] ?? '',
          createdAt: ago(200),
          lastSeenAt: seen === undefined ? null : ago(seen),
        }),
      });
    const who = (name: string) => rows.find((row) => row.name.startsWith(name))?.id ?? 0;

    const pictureIds = new Map<string, string>();
    for (const [key, picture] of Object.entries(PICTURES)) {
      const hash = await keepBlob(tx, 'image/svg+xml', Buffer.from(picture.svg));
      const [row] = await tx
        .insert(media)
        .values({
          siteId,
          name: picture.name,
          description: picture.description,
          hash,
          authorId: who('Lotte'),
          createdAt: ago(190),
        })
        .returning({ id: media.id });
      pictureIds.set(key, String(row?.id));
    }

    const made = new Map<string, { page: DemoPage; row: ItemRow; content: PageContent }>();
    const add = async (page: DemoPage, parent: ItemRow | null, position: number, address: string): Promise<void> => {
      const content: PageContent = {
        title: page.title,
        summary: page.summary,
        ...(page.body && { body: page.body }),
        ...page.fields,
      };
      if (page.layout !== 'plain') content['banner'] = page.banner ? (pictureIds.get(page.banner) ?? null) : null;
      const authorId = who(page.key === 'about' ? 'Juno' : 'Maud');
      const row = await addPage(tx, siteId, { parent, position, authorId, day: ago(180 - made.size * 7) }, page);
      made.set(page.key, { page, row, content });
      names.set(address || '/', `page:${row.id}`);
      for (const [i, child] of (page.below ?? []).entries()) await add(child, row, i, `${address}/${child.slug}`);
    };
    const names = new Map<string, string>();
    await add(HOME, null, 0, '');
    // Their links name pages, so all of them must be there.
    for (const one of made.values()) {
      one.content = demoContent(
        inventory,
        one.row,
        withHrefs(one.content, (href) => names.get(href) ?? href),
      );
      await publish(tx, inventory, one.row, one.content);
    }
    const get = (key: string) => {
      const one = made.get(key);
      if (!one) throw new Error(`no page "${key}"`);
      return one;
    };
    const id = (key: string) => get(key).row.id;
    for (const [key, { of }] of Object.entries(PICTURES))
      if (of)
        await tx
          .update(media)
          .set({ pageId: id(of) })
          .where(eq(media.id, Number(pictureIds.get(key))));

    await tx
      .insert(assignments)
      .values(
        DEMO_PEOPLE.flatMap((person) =>
          person.assignments.map((a) => ({
            siteId,
            personId: who(person.name),
            roleId: a.role,
            branchId: a.branch ? id(a.branch) : null,
            untilAt: a.days ? new Date(at.getTime() + a.days * DAY_MS) : null,
          })),
        ),
      );
    await installPlan(
      tx,
      siteId,
      demoPlan(inventory, (key) => String(id(key))),
    );

    for (const vacancy of demoVacancies(at))
      await addVacancy(tx, inventory, get(vacancy.page).row, who(vacancy.author), vacancy, ago(9));

    await tx
      .insert(duties)
      .values(
        demoDuties(at).map(({ whose, by, due, ...more }) => ({
          ...more,
          siteId,
          whose: who(whose),
          madeBy: who(by),
          due,
          first: due,
        })),
      );

    await tx.insert(notices).values([
      {
        siteId,
        pageId: id('home'),
        kind: 'warning',
        text: 'Fog on the sound: boats to Skell Island may run up to 20 minutes late.',
        startsAt: new Date(at.getTime() - 2 * 3600_000),
        endsAt: new Date(at.getTime() + 5 * 3600_000),
        postedBy: who('Tomas'),
      },
      {
        siteId,
        pageId: id('cafe'),
        kind: 'information',
        text: 'The café is closed for a christening on Sunday from two.',
        startsAt: ago(1),
        endsAt: new Date(at.getTime() + 5 * DAY_MS),
        postedBy: who('Oskar'),
      },
      {
        siteId,
        pageId: id('home'),
        kind: 'warning',
        text: 'The 17:40 to Skell Island does not sail today.',
        startsAt: ago(6),
        endsAt: ago(5),
        postedBy: who('Ines'),
      },
    ]);

    const draft = async (key: string, personId: number, hours: number, change: (content: PageContent) => PageContent) =>
      beginDraft(tx, inventory, get(key).row, {
        content: change(get(key).content),
        by: personId,
        at: new Date(at.getTime() - hours * 3600_000),
      });
    const andAlso = (content: PageContent, text: string): PageContent => ({
      ...content,
      body: { type: 'doc', content: [...documentOf(content, 'body').content, p(text)] },
    });
    await draft('parking', who('Ines'), 20, (content) =>
      andAlso(content, 'From Monday the lower row is closed while the drains are cleaned.'),
    );

    const around = get('around');
    const revisionId = await addDemoRevision(tx, inventory, around.row, {
      number: 2,
      content: andAlso(around.content, 'The post cart now also meets the 15:10.'),
      kind: 'sent',
      madeBy: who('Tomas'),
      madeAt: ago(1),
      note: 'New run of the post cart',
    });
    await tx
      .insert(reviews)
      .values({
        siteId,
        itemId: id('around'),
        revisionId,
        sentBy: who('Tomas'),
        sentAt: ago(1),
        note: 'New run of the post cart',
      });
    await tx.insert(activity).values([
      ...[
        ['posted a notice', 'Ice on the ramp at Port Ennis.', 21],
        ['published', 'Fares', 16],
        ['published', 'Timetable', 12],
        ['posted a notice', 'The lift at South Quay is out of order.', 9],
      ].map(([action, subject, days]) => ({
        siteId,
        personId: who('Maud'),
        at: ago(Number(days)),
        action: String(action),
        subject: String(subject),
      })),
      {
        siteId,
        personId: who('Ines'),
        at: ago(6),
        action: 'posted a notice',
        subject: 'The 17:40 to Skell Island does not sail today.',
        href: '/room/notices',
      },
      {
        siteId,
        personId: who('Oskar'),
        at: ago(1),
        action: 'posted a notice',
        subject: 'The café is closed for a christening on Sunday from two.',
        href: '/room/notices',
      },
      {
        siteId,
        personId: who('Tomas'),
        at: ago(1),
        action: 'sent for a second look',
        subject: 'Getting around on Skell',
        href: `/room/pages/${id('around')}`,
        detail: 'New run of the post cart',
      },
    ]);
    return { siteId };
  });
}
