import { eq } from 'drizzle-orm';
import { getTableConfig, type PgTable } from 'drizzle-orm/pg-core';
import { beforeAll, describe, expect, it } from 'vitest';
import { POST as make } from '@/pages/api/pages/index';
import { db } from '@/server/db/client';
import * as schema from '@/server/db/schema';
import { findSite } from '@/server/gate/access';
import { hashPassword } from '@/server/gate/password';
import { signIn } from '@/server/gate/sign-in';
import { addPerson, findByEmail } from '@/server/people/accounts';
import { call, pageId, signInAs, siteId } from './ask';

const { drafts, items, sites } = schema;
/** What PostgreSQL says of a row that names none (SQLSTATE, class 23: foreign_key_violation). */
const NO_SUCH_ROW = { cause: { code: '23503' } };

describe('several sites in one database', () => {
  let second = 0;
  beforeAll(async () => {
    const [row] = await db
      .insert(sites)
      .values({ name: 'Second', timeZone: 'Europe/London', host: 'second.example' })
      .returning();
    second = row?.id ?? 0;
  });

  it('a row of one never names a row of another: the database refuses it', async () => {
    const jobs = await pageId('Jobs');
    const draft = { itemId: jobs, siteId: second, content: { title: 'x' }, version: 1 };
    await expect(db.insert(drafts).values(draft)).rejects.toMatchObject(NO_SUCH_ROW);
    await expect(
      db.insert(items).values({ siteId: second, parentId: jobs, path: 'new', layout: 'plain' }),
    ).rejects.toMatchObject(NO_SUCH_ROW);
    const other = await addPerson(db, { siteId: second, name: 'Zoe Far', email: 'zoe@second.example' });
    await expect(db.update(items).set({ authorId: other }).where(eq(items.id, jobs))).rejects.toMatchObject(
      NO_SUCH_ROW,
    );
  });

  it('every key to a row that belongs to a site names the site with it', () => {
    const tables = (Object.values(schema) as PgTable[]).map(getTableConfig);
    const belongs = (columns: readonly { keyAsName: boolean; name: string }[]) =>
      columns.some((column) => column.name === 'siteId');
    expect(tables.filter((table) => belongs(table.columns)).length).toBeGreaterThan(20);
    for (const table of tables)
      for (const key of table.foreignKeys.map((one) => one.reference()))
        if (belongs(getTableConfig(key.foreignTable).columns) && belongs(table.columns))
          expect(
            key.columns.map((column) => column.name),
            `${table.name} → ${getTableConfig(key.foreignTable).name}`,
          ).toContain('siteId');
  });

  it('each is asked by its name; the same mail address is another person there', async () => {
    expect((await findSite(db, 'second.example'))?.name).toBe('Second');
    expect((await findSite(db, '127.0.0.1:4477'))?.name).toBe('Larkhaven Ferries');
    const email = 'ines@larkhaven.example';
    await addPerson(db, {
      siteId: second,
      name: 'Ines There',
      email,
      passwordHash: await hashPassword('seven-blue-lamps'),
    });
    const signed = (host: string, password: string) =>
      signIn(
        db,
        { email, password },
        { address: '10.0.9.9', host, browser: undefined, session: undefined, newBrowser: host },
      );
    await expect(signed('127.0.0.1:4477', 'seven-blue-lamps')).rejects.toThrow('do not fit together');
    expect((await signed('second.example', 'seven-blue-lamps')).to).toBe('/room');
    // Wrong tries are those of the account that was tried.
    expect((await findByEmail(db, second, email))?.account.wrongTries).toBe(0);
    expect((await findByEmail(db, await siteId(), email))?.account.wrongTries).toBe(1);
  });

  it('what is new begins in the first language of its site', async () => {
    await db
      .update(sites)
      .set({ languages: ['cy', 'en'] })
      .where(eq(sites.id, await siteId()));
    const made = await call(make, 'POST', '/x', {
      ...(await signInAs('Maud')),
      body: { parent: await pageId('Jobs'), title: 'Swyddi', layout: 'plain' },
    });
    expect(made.status).toBe(200);
    const [row] = await db
      .select({ language: items.language })
      .from(items)
      .where(eq(items.id, Number(made.body['id'])));
    expect(row?.language).toBe('cy');
  });
});
