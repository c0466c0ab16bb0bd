import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { PUT as changePassword } from '@/pages/api/own-password';
import { POST as setUp } from '@/pages/api/set-up';
import { POST as signIn } from '@/pages/api/sign-in';
import { POST as signOut } from '@/pages/api/sign-out';
import { listActivity } from '@/server/activity/activity';
import { db } from '@/server/db/client';
import { assignments, people, rateLimits, sessions } from '@/server/db/schema';
import { findAccess } from '@/server/gate/access';
import { makeSetupToken } from '@/server/gate/set-up';
import { findWrongTries, signIn as signInWith, slownessMs } from '@/server/gate/sign-in';
import { PUT as ownTries } from '@/pages/api/own-tries';
import { config } from '@/server/config';
import { withSecurityHeaders } from '@/server/gate/headers';
import { hashToken, sessionCookie } from '@/server/gate/sessions';
import { call, signInAs, siteId } from './ask';

const tokenIn = (headers: Headers) => /safe_room_session=([^;]*)/.exec(headers.get('set-cookie') ?? '')?.[1] ?? '';

describe('signing in', () => {
  it('gives a session in a cookie that scripts cannot read and other sites cannot send', async () => {
    const answer = await call(signIn, 'POST', '/x', {
      body: { email: ' INES@larkhaven.example ', password: 'late-boat-again' },
    });
    expect(answer).toMatchObject({ status: 200, body: { to: '/room' } });
    expect(answer.headers.getSetCookie()).toEqual([
      expect.stringMatching(/^safe_room_session=.{43}; Path=\/; HttpOnly; SameSite=Lax; Max-Age=43200$/),
      expect.stringMatching(/^safe_room_browser=.{43}; Path=\/; HttpOnly; SameSite=Lax; Max-Age=34560000$/),
    ]);
    expect((await findAccess(db, tokenIn(answer.headers)))?.who.name).toBe('Ines Varga');
    expect(
      await db
        .select()
        .from(sessions)
        .where(eq(sessions.tokenHash, tokenIn(answer.headers))),
    ).toEqual([]);
  });
  it('goes on to where one wanted to go, but only on this site', async () => {
    const to = async (next: string) =>
      (
        await call(signIn, 'POST', '/x', {
          body: { email: 'priya@larkhaven.example', password: 'reads-it-twice', next },
        })
      ).body['to'];
    expect([
      await to('/room/review'),
      await to('https://evil.example'),
      await to('//evil.example'),
      await to('/room/../../x?y=//z'),
    ]).toEqual(['/room/review', '/room', '/room', '/room']);
  });
  it('says the same whether the address or the password is wrong', async () => {
    const tries = async (email: string) =>
      (await call(signIn, 'POST', '/x', { body: { email, password: 'wrong-password' } })).body;
    const [known, unknown] = [await tries('oskar@larkhaven.example'), await tries('nobody@larkhaven.example')];
    expect(known).toEqual(unknown);
    expect(known).toMatchObject({ kind: 'wrong-sign-in', status: 401 });
  });
  it('grows slower with every wrong try for one mail address, and shuts nobody out by it; they are told', async () => {
    expect([1, 8, 9, 10, 13, 40].map(slownessMs)).toEqual([0, 0, 250, 500, 4000, 4000]);
    for (let i = 0; i < 9; i++)
      await call(signIn, 'POST', '/x', { body: { email: 'oskar@larkhaven.example', password: 'wrong-password' } });
    const came = await call(signIn, 'POST', '/x', {
      body: { email: 'oskar@larkhaven.example', password: 'soup-of-the-day' },
    });
    expect(came.status).toBe(200);
    const access = await findAccess(db, tokenIn(came.headers));
    if (!access) throw new Error('no access');
    expect(await findWrongTries(db, access)).toMatchObject({ times: 10 });
    // Whoever knew it is not kept waiting the next time: for this address it is counted anew.
    expect(
      (await db.select().from(rateLimits)).filter(
        ({ key }) => key === `sign-in-target:mail ${hashToken('oskar@larkhaven.example')}`,
      ),
    ).toEqual([]);
    await call(ownTries, 'PUT', '/x', { cookie: `safe_room_session=${tokenIn(came.headers)}` });
    expect(await findWrongTries(db, access)).toBeUndefined();
  });
  it('never waits for what strangers tried in a browser somebody signed in from before', async () => {
    const browser =
      /safe_room_browser=([^;]*)/.exec(
        (
          await call(signIn, 'POST', '/x', {
            body: { email: 'lotte@larkhaven.example', password: 'says-what-it-shows' },
          })
        ).headers
          .getSetCookie()
          .join(),
      )?.[1] ?? '';
    // 60 tries from one network address are too many for anybody else there.
    const address = { address: '10.9.9.9', session: undefined, newBrowser: 'x' };
    const from = (more: object, password: string) =>
      signInWith(db, { email: 'lotte@larkhaven.example', password }, { ...address, browser: undefined, ...more });
    await db.insert(rateLimits).values({ key: 'sign-in-address:10.9.9.9', points: 60, expire: Date.now() + 60_000 });
    await expect(from({}, 'says-what-it-shows')).rejects.toThrow('tried too often');
    expect((await from({ browser, newBrowser: browser }, 'says-what-it-shows')).to).toBe('/room');
    await expect(from({ browser: `${browser}x` }, 'says-what-it-shows')).rejects.toThrow('tried too often');
  });
  it('ends the session the browser had', async () => {
    const first = await call(signIn, 'POST', '/x', {
      body: { email: 'sam@larkhaven.example', password: 'until-the-autumn' },
    });
    const old = tokenIn(first.headers);
    await call(signIn, 'POST', '/x', {
      cookie: `safe_room_session=${old}`,
      body: { email: 'sam@larkhaven.example', password: 'until-the-autumn' },
    });
    expect(await findAccess(db, old)).toBeUndefined();
  });
  it('is refused to a suspended person, whose session ends too', async () => {
    const juno = await signInAs('Juno');
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, juno.id));
    expect(await findAccess(db, juno.token)).toBeUndefined();
    expect(
      (await call(signIn, 'POST', '/x', { body: { email: 'juno@larkhaven.example', password: 'first-line-first' } }))
        .status,
    ).toBe(401);
  });
  it('ends with signing out, and by itself', async () => {
    const tomas = await signInAs('Tomas');
    expect((await call(signOut, 'POST', '/x', tomas)).headers.get('set-cookie')).toContain('Max-Age=0');
    expect(await findAccess(db, tomas.token)).toBeUndefined();
    const again = await signInAs('Tomas');
    await db
      .update(sessions)
      .set({ expiresAt: new Date(Date.now() - 1) })
      .where(eq(sessions.tokenHash, hashToken(again.token)));
    expect(await findAccess(db, again.token)).toBeUndefined();
  });
});

describe('what every answer carries', () => {
  it('forbids others to frame a page, to guess what it is and, of the back office, to keep it', () => {
    const page = withSecurityHeaders(new Response('', { headers: { 'content-type': 'text/html' } }), true);
    expect(page.headers.get('content-security-policy')).toContain("frame-ancestors 'self'");
    expect(page.headers.get('x-content-type-options')).toBe('nosniff');
    expect(page.headers.get('cache-control')).toBe('no-store');
    expect(withSecurityHeaders(new Response(''), false).headers.get('cache-control')).toBeNull();
  });
  it('a cookie goes over HTTPS only, where that is how the site is reached', () => {
    const request = new Request('http://127.0.0.1:4400/', { headers: { host: '127.0.0.1:4400' } });
    expect(sessionCookie(request, 'x')).not.toContain('Secure');
    const settings = config as { ORIGIN: string | undefined };
    settings.ORIGIN = 'https://larkhaven.example';
    try {
      expect(sessionCookie(request, 'x')).toMatch(/; Secure$/);
    } finally {
      settings.ORIGIN = undefined;
    }
  });
});

describe('one’s own password', () => {
  const signInWith = async (password: string) =>
    (await call(signIn, 'POST', '/x', { body: { email: 'priya@larkhaven.example', password } })).status;
  it('is changed by who knows it; whoever is signed in elsewhere with the old one is so no longer', async () => {
    const [here, elsewhere, other] = [await signInAs('Priya'), await signInAs('Priya'), await signInAs('Lotte')];
    const change = async (current: string, password: string) =>
      (await call(changePassword, 'PUT', '/x', { ...here, body: { current, password } })).body;
    expect((await change('reads-it-thrice', 'a good long one'))['faults']).toEqual([
      { field: 'current', message: 'This is not your password now. Look for a typing error; capitals count.' },
    ]);
    expect((await change('reads-it-twice', 'short'))['faults']).toEqual([
      { field: 'password', message: 'A password needs at least 10 characters.' },
    ]);
    expect((await change('reads-it-twice', 'reads-it-twice'))['faults']).toMatchObject([{ field: 'password' }]);
    expect(await signInWith('reads-it-twice')).toBe(200);
    expect(await change('reads-it-twice', 'a good long one')).toEqual({});
    expect([await signInWith('reads-it-twice'), await signInWith('a good long one')]).toEqual([401, 200]);
    expect((await findAccess(db, here.token))?.who.name).toBe('Priya Nand');
    expect(await findAccess(db, elsewhere.token)).toBeUndefined();
    expect(await findAccess(db, other.token)).toBeDefined();
    expect((await listActivity(db, await siteId(), 1))[0]).toMatchObject({
      who: 'Priya Nand',
      action: 'changed their password',
    });
  });
  it('is not to be found out by trying', async () => {
    const here = await signInAs('Lotte');
    const wrong = () =>
      call(changePassword, 'PUT', '/x', { ...here, body: { current: 'wrong-password', password: 'a good long one' } });
    for (let i = 0; i < 8; i++) expect((await wrong()).status).toBe(422);
    expect((await wrong()).status).toBe(429);
    expect(
      (
        await call(changePassword, 'PUT', '/x', {
          ...here,
          body: { current: 'says-what-it-shows', password: 'a good long one' },
        })
      ).status,
    ).toBe(429);
  });
});

describe('the first keyholder', () => {
  it('is made by the newest link, once, and only while there is none', async () => {
    const older = await makeSetupToken(db, await siteId());
    const token = await makeSetupToken(db, await siteId());
    const body = { token, name: 'Nell Strand', email: 'nell@larkhaven.example', password: 'a good long one' };
    expect((await call(setUp, 'POST', '/x', { body: { ...body, password: 'short' } })).body['faults']).toEqual([
      { field: 'password', message: 'A password needs at least 10 characters.' },
    ]);
    expect((await call(setUp, 'POST', '/x', { body })).body.detail).toBe(
      'This website has a keyholder already. Ask them for a way in.',
    );
    await db.delete(assignments).where(eq(assignments.roleId, 'keyholder'));
    expect((await call(setUp, 'POST', '/x', { body: { ...body, token: older } })).status).toBe(403);
    for (const password of ['aaaaaaaaaa', 'password12', '          ', 'nell@larkhaven.example', 'Nell Strand 1'])
      expect((await call(setUp, 'POST', '/x', { body: { ...body, password } })).body['faults'], password).toMatchObject(
        [{ field: 'password' }],
      );
    const made = await call(setUp, 'POST', '/x', { body });
    expect(made).toMatchObject({ status: 200, body: { to: '/workshop' } });
    expect((await findAccess(db, tokenIn(made.headers)))?.who.assignments).toEqual([{ role: 'keyholder' }]);
    expect(await call(setUp, 'POST', '/x', { body: { ...body, email: 'other@larkhaven.example' } })).toMatchObject({
      status: 403,
    });
    expect(await call(setUp, 'POST', '/x', { body: { ...body, token: 'guessed' } })).toMatchObject({ status: 403 });
  });
});
