import type { APIRoute } from 'astro';
import { eq } from 'drizzle-orm';
import { DEMO_PEOPLE } from '@/demo/people';
import { db } from '@/server/db/client';
import { assignments, items, people, releases, revisions } from '@/server/db/schema';
import { applyOperation, type Operation } from '@/core/plan';
import { getLivePlan } from '@/server/plan/plans';
import { findAccess, findSite, type Access, type Site } from '@/server/gate/access';
import { beginSession } from '@/server/gate/sessions';
import { sql } from 'drizzle-orm';
import { addPerson } from '@/server/people/accounts';
import { inventory } from '../inventory';

export const ORIGIN = 'http://127.0.0.1:4400';

export interface Answer {
  status: number;
  body: Record<string, unknown> & { code?: string; detail?: string };
  headers: Headers;
}

/** Calls an endpoint as the browser would; give other headers to be somebody less friendly. */
export async function call(
  route: APIRoute,
  method: string,
  path: string,
  options: { cookie?: string; body?: unknown; params?: Record<string, string>; headers?: Record<string, string> } = {},
): Promise<Answer> {
  const request = new Request(ORIGIN + path, {
    method,
    headers: {
      host: '127.0.0.1:4400',
      origin: ORIGIN,
      'content-type': 'application/json',
      ...(options.cookie && { cookie: options.cookie }),
      ...options.headers,
    },
    ...(method !== 'GET' && {
      body: typeof options.body === 'string' ? options.body : JSON.stringify(options.body ?? {}),
    }),
  });
  const response = await route({
    request,
    params: options.params ?? {},
    clientAddress: '127.0.0.1',
  } as unknown as Parameters<APIRoute>[0]);
  return {
    status: response.status,
    body: (/[/+]json/.test(response.headers.get('content-type') ?? '') && !response.headers.has('content-disposition')
      ? await response.json()
      : { text: await response.text() }) as Answer['body'],
    headers: response.headers,
  };
}

export const siteId = async () => (await findSite(db))?.id ?? 0;

/** A session of one of the demo's people, by first name. */
export async function signInAs(first: string): Promise<{ cookie: string; token: string; id: number }> {
  const person = DEMO_PEOPLE.find((p) => p.name.startsWith(first));
  const [row] = await db
    .select()
    .from(people)
    .where(eq(people.email, person?.email ?? ''));
  if (!row) throw new Error(`nobody is called ${first}`);
  const token = await beginSession(db, row.siteId, row.id);
  return { cookie: `safe_room_session=${token}`, token, id: row.id };
}

export async function accessOf(first: string): Promise<Access> {
  const access = await findAccess(db, (await signInAs(first)).token);
  if (!access) throw new Error(`${first} has no access`);
  return access;
}

/** Id of a page by the title visitors see. */
export async function pageId(title: string): Promise<number> {
  const [row] = await db
    .select({ id: items.id })
    .from(items)
    .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
    .where(sql`${revisions.content}->>'title' = ${title}`);
  if (!row) throw new Error(`no page is called ${title}`);
  return row.id;
}

export interface Who {
  cookie: string;
  token: string;
  id: number;
}
/** Puts a changed plan in force at once, prepared and live: what each test needs, without the way there. */
export async function inForce(...operations: Operation[]): Promise<void> {
  let plan = await getLivePlan(db, (await findSite(db)) as Site);
  for (const operation of operations) {
    const done = applyOperation(inventory, plan, operation);
    if (!done.ok) throw new Error(`${operation.do}: ${done.detail}`);
    plan = done.plan;
  }
  await db.execute(sql`update plans set plan = ${JSON.stringify(plan)}::jsonb, revision = revision + 1`);
  const [row] = await db
    .insert(releases)
    .values({ siteId: await siteId(), number: sql`(select max(number) + 1 from releases)`, plan, note: 'for a test' })
    .returning({ id: releases.id });
  await db.execute(sql`update sites set live_release_id = ${row?.id}`);
}
/** Somebody new who holds some roles. */
export async function somebody(name: string, ...held: { role: string; branch?: number }[]): Promise<Who> {
  const site = await siteId();
  const email = `${name.toLowerCase()}@larkhaven.example`;
  const id = await addPerson(db, { siteId: site, name, email, passwordHash: 'x' });
  if (held.length > 0)
    await db
      .insert(assignments)
      .values(held.map((a) => ({ siteId: site, personId: id, roleId: a.role, branchId: a.branch ?? null })));
  const token = await beginSession(db, site, id);
  return { cookie: `safe_room_session=${token}`, token, id };
}
/** The operations that make a role which may do some things, with every door open. */
export const role = (id: string, ...permissions: string[]): Operation[] => [
  { do: 'add-role', role: id, name: id, purpose: '' },
  ...permissions.map((permission): Operation => ({
    do: 'add-grant',
    role: id,
    grant: { id: permission.replace('*', 'all'), effect: 'allow', permission, scope: {} },
  })),
  ...inventory.doors.map((section): Operation => ({ do: 'set-door', role: id, section: section.id, state: 'open' })),
];
