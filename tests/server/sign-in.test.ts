import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { PUT as changePassword } from '@/pages/api/own-password';
import { POST as setUp } from '@/pages/api/set-up';
import { POST as signIn } from '@/pages/api/sign-in';
import { POST as signOut } from '@/pages/api/sign-out';
import { listActivity } from '@/server/activity/activity';
import { db } from '@/server/db/client';
import { people, sessions } from '@/server/db/schema';
import { findAccess } from '@/server/gate/access';
import { makeSetupToken } from '@/server/gate/set-up';
import { hashToken } from '@/server/gate/sessions';
import { call, signInAs, siteId } from './ask';

const tokenIn = (headers: Headers) => /safe_room_session=([^;]*)/.exec(headers.get('set-cookie') ?? '')?.[1] ?? '';

describe('signing in', () => {
  it('gives a session in a cookie that scripts cannot read and other sites cannot send', async () => {
    const answer = await call(signIn, 'POST', '/x', { body: { email: ' INES@larkhaven.example ', password: 'late-boat-again' } });
    expect(answer).toMatchObject({ status: 200, body: { to: '/room' } });
    expect(answer.headers.get('set-cookie')).toMatch(/; Path=\/; HttpOnly; SameSite=Lax; Max-Age=43200$/);
    expect((await findAccess(db, tokenIn(answer.headers)))?.who.name).toBe('Ines Varga');
    expect(await db.select().from(sessions).where(eq(sessions.tokenHash, tokenIn(answer.headers)))).toEqual([]);
  });
  it('goes on to where one wanted to go, but only on this site', async () => {
    const to = async (next: string) => (await call(signIn, 'POST', '/x', { body: { email: 'priya@larkhaven.example', password: 'reads-it-twice', next } })).body['to'];
    expect([await to('/room/review'), await to('https://evil.example'), await to('//evil.example'), await to('/room/../../x?y=//z')]).toEqual(['/room/review', '/room', '/room', '/room']);
  });
  it('says the same whether the address or the password is wrong, and tires of trying', async () => {
    const tries = async (email: string) => (await call(signIn, 'POST', '/x', { body: { email, password: 'wrong-password' } })).body;
    const [known, unknown] = [await tries('oskar@larkhaven.example'), await tries('nobody@larkhaven.example')];
    expect(known).toEqual(unknown);
    expect(known).toMatchObject({ code: 'wrong-sign-in', status: 401 });
    for (let i = 0; i < 7; i++) await tries('oskar@larkhaven.example');
    expect(await tries('oskar@larkhaven.example')).toMatchObject({ code: 'too-many', status: 429 });
    // Also with the right password, and not for others.
    expect((await call(signIn, 'POST', '/x', { body: { email: 'oskar@larkhaven.example', password: 'soup-of-the-day' } })).status).toBe(429);
    expect((await call(signIn, 'POST', '/x', { body: { email: 'lotte@larkhaven.example', password: 'says-what-it-shows' } })).status).toBe(200);
  });
  it('is refused to a suspended person, whose session ends too', async () => {
    const juno = await signInAs('Juno');
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, juno.id));
    expect(await findAccess(db, juno.token)).toBeUndefined();
    expect((await call(signIn, 'POST', '/x', { body: { email: 'juno@larkhaven.example', password: 'first-line-first' } })).status).toBe(401);
  });
  it('ends with signing out, and by itself', async () => {
    const tomas = await signInAs('Tomas');
    expect((await call(signOut, 'POST', '/x', tomas)).headers.get('set-cookie')).toContain('Max-Age=0');
    expect(await findAccess(db, tomas.token)).toBeUndefined();
    const again = await signInAs('Tomas');
    await db.update(sessions).set({ expiresAt: new Date(Date.now() - 1) }).where(eq(sessions.tokenHash, hashToken(again.token)));
    expect(await findAccess(db, again.token)).toBeUndefined();
  });
});

describe('one’s own password', () => {
  const signInWith = async (password: string) => (await call(signIn, 'POST', '/x', { body: { email: 'priya@larkhaven.example', password } })).status;
  it('is changed by who knows it; whoever is signed in elsewhere with the old one is so no longer', async () => {
    const [here, elsewhere, other] = [await signInAs('Priya'), await signInAs('Priya'), await signInAs('Lotte')];
    const change = async (current: string, password: string) => (await call(changePassword, 'PUT', '/x', { ...here, body: { current, password } })).body;
    expect((await change('reads-it-thrice', 'a good long one'))['faults']).toEqual([{ field: 'current', message: 'This is not your password now. Look for a typing error; capitals count.' }]);
    expect((await change('reads-it-twice', 'short'))['faults']).toEqual([{ field: 'password', message: 'A password needs at least 10 characters.' }]);
    expect((await change('reads-it-twice', 'reads-it-twice'))['faults']).toMatchObject([{ field: 'password' }]);
    expect(await signInWith('reads-it-twice')).toBe(200);
    expect(await change('reads-it-twice', 'a good long one')).toEqual({});
    expect([await signInWith('reads-it-twice'), await signInWith('a good long one')]).toEqual([401, 200]);
    expect((await findAccess(db, here.token))?.who.name).toBe('Priya Nand');
    expect(await findAccess(db, elsewhere.token)).toBeUndefined();
    expect(await findAccess(db, other.token)).toBeDefined();
    expect((await listActivity(db, await siteId(), 1))[0]).toMatchObject({ who: 'Priya Nand', action: 'changed their password' });
  });
  it('is not to be found out by trying', async () => {
    const here = await signInAs('Lotte');
    const wrong = () => call(changePassword, 'PUT', '/x', { ...here, body: { current: 'wrong-password', password: 'a good long one' } });
    for (let i = 0; i < 8; i++) expect((await wrong()).status).toBe(422);
    expect((await wrong()).status).toBe(429);
    expect((await call(changePassword, 'PUT', '/x', { ...here, body: { current: 'says-what-it-shows', password: 'a good long one' } })).status).toBe(429);
  });
});

describe('the first keyholder', () => {
  it('is made by a link that works once', async () => {
    const token = await makeSetupToken(db, await siteId());
    const body = { token, name: 'Nell Strand', email: 'nell@larkhaven.example', password: 'a good long one' };
    expect((await call(setUp, 'POST', '/x', { body: { ...body, password: 'short' } })).body['faults']).toEqual([{ field: 'password', message: 'A password needs at least 10 characters.' }]);
    const made = await call(setUp, 'POST', '/x', { body });
    expect(made).toMatchObject({ status: 200, body: { to: '/workshop' } });
    expect((await findAccess(db, tokenIn(made.headers)))?.who.assignments).toEqual([{ role: 'keyholder' }]);
    expect(await call(setUp, 'POST', '/x', { body: { ...body, email: 'other@larkhaven.example' } })).toMatchObject({ status: 403 });
    expect(await call(setUp, 'POST', '/x', { body: { ...body, token: 'guessed' } })).toMatchObject({ status: 403 });
  });
});
