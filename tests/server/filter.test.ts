import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { decide, type Policy } from '@/core/access';
import { findPlace, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { items } from '@/server/db/schema';
import { allowedPages } from '@/server/gate/filter';
import type { Access } from '@/server/gate/access';
import { DEMO_PEOPLE } from '@/demo/people';
import { makeBundle, opened, PERMISSIONS, randomFrom } from '../oracles/worlds';
import { accessOf, pageId, siteId } from './ask';
import { inventory } from '../inventory';

const listed = async (access: Access, permission: string) =>
  (
    await db
      .select({ id: items.id })
      .from(items)
      .where(and(eq(items.siteId, access.site.id), allowedPages(access, permission)))
      .orderBy(items.id)
  ).map((row) => String(row.id));

/** Asks the gate page by page, and the database all at once. */
async function compare(access: Access, permission: string, told: string): Promise<number> {
  const all = await listPages(db, access.site.id);
  // What lies on a page may be their own or somebody else's; a page is its author's.
  const authors = (page: (typeof all)[number]) =>
    inventory.permissions.get(permission as never)?.ownAuthor ? [access.who.id, null] : [page.place.author];
  const expected = all
    .filter((page) =>
      authors(page).some(
        (author) =>
          decide(access.policy, {
            person: access.who.id,
            permission,
            place: { ...page.place, author },
            atMs: Date.now(),
          }).allowed,
      ),
    )
    .map((page) => page.id)
    .sort((a, b) => Number(a) - Number(b));
  expect(await listed(access, permission), told).toEqual(expected);
  return expected.length;
}

describe('lists that the database filters hold just the rows decide() allows', () => {
  it('for everybody of the demo and everything that has a place', async () => {
    let some = 0;
    for (const { name } of DEMO_PEOPLE) {
      const access = await accessOf(name.split(' ')[0] ?? '');
      for (const { id, placed } of inventory.permissions.values())
        if (placed) {
          const count = await compare(access, id, `${name}, ${id}`);
          if (count > 0 && count < 20) some++;
        }
    }
    expect(some).toBeGreaterThan(5);
  });

  it('for random policies, with every part of a scope and denies', async () => {
    const maud = await accessOf('Maud');
    const all = await listPages(db, await siteId());
    const authors = [...new Set(all.map((p) => p.place.author))].filter((a) => a !== null);
    const counts = new Set<number>();
    for (let seed = 1; seed <= 60; seed++) {
      const random = randomFrom(seed);
      const bundle = makeBundle(random, { roles: 4, people: 1, pages: all.length, grants: 5, timed: 0 });
      // The random policy, about pages and layouts there are; the one person is somebody who wrote pages.
      const page = (id: string | undefined) =>
        id === undefined ? undefined : all[Number(id.slice(1)) % all.length]?.id;
      const layouts = { plain: 'plain', banner: 'banner', harbour: 'harbour', list: 'plain' } as Record<string, string>;
      const who = random.oneOf(authors);
      const { policy } = opened(bundle);
      const roles: Policy['roles'] = new Map(
        [...policy.roles].map(([id, role]) => [
          id,
          {
            ...role,
            grants: role.grants.map((g) => ({
              ...g,
              scope: {
                ...g.scope,
                branch: page(g.scope.branch),
                layouts: g.scope.layouts?.map((l) => layouts[l] ?? l),
              },
            })),
          },
        ]),
      );
      const held = {
        id: who,
        name: 'Somebody',
        assignments: (policy.people.get('u0')?.assignments ?? []).map((a) => ({ ...a, branch: page(a.branch) })),
      };
      const access: Access = {
        ...maud,
        who: held,
        policy: { roles, people: new Map([[who, held]]), secondPerson: new Set() },
      };
      for (const permission of PERMISSIONS.slice(0, 6))
        counts.add(await compare(access, permission, `seed ${seed}, ${permission}`));
    }
    expect(counts.size).toBeGreaterThan(6);
  });

  it('without failing on a branch that is no page, or on nobody', async () => {
    const maud = await accessOf('Maud');
    const held = { id: '0', name: 'Somebody', assignments: [{ role: 'r', branch: "1') or true --" }] };
    const access: Access = {
      ...maud,
      who: held,
      policy: {
        roles: new Map([
          [
            'r',
            { id: 'r', name: 'r', extends: [], grants: [{ id: 'g', effect: 'allow', permission: '*', scope: {} }] },
          ],
        ]),
        people: new Map([['0', held]]),
        secondPerson: new Set(),
      },
    };
    expect(await listed(access, 'page.view')).toEqual([]);
    expect(await listed({ ...access, who: { ...held, id: 'x' } }, 'page.view')).toEqual([]);
    expect((await findPlace(db, await siteId(), await pageId('Jobs')))?.layout).toBe('plain');
  });
});
