import { describe, expect, it } from 'vitest';
import { questionOf } from '@/core/ask';
import { GET, POST } from '@/pages/api/ask';
import { listMissed } from '@/server/ask/questions';
import { db } from '@/server/db/client';
import { call, signInAs, siteId } from './ask';

describe('what was asked', () => {
  it('is learned from for everybody, but for words that only somebody else may know; what found nothing is listed for the keyholder', async () => {
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const ask = (by: { cookie: string }, asked: string, chosen: string | null) =>
      call(POST, 'POST', '/x', { ...by, body: { asked, chosen } });
    expect((await ask(maud, 'the boat is late again', 'task notices.post')).status).toBe(200);
    expect((await ask(maud, 'publish the Zanzibar merger', 'task pages.publish')).status).toBe(200);
    expect((await ask(maud, 'boats of gold', null)).status).toBe(200);
    expect((await ask(maud, 'late', 'task there.is.none')).status).toBe(404);
    const learned = (await call(GET, 'GET', '/x', ines)).body['learned'] as Record<string, string>;
    expect(JSON.stringify(learned)).not.toMatch(/zanzibar/i);
    expect(learned[questionOf('publish right now')] ?? '').toBe('');
    expect((await ask(maud, 'publish right now', 'task pages.publish')).status).toBe(200);
    expect(
      ((await call(GET, 'GET', '/x', ines)).body['learned'] as Record<string, string>)[questionOf('right now publish')],
    ).toBe('task pages.publish');
    expect((await listMissed(db, await siteId())).map((one) => one.asked)).toEqual(['boats of gold']);
  });
});
