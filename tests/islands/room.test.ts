import type { ListedPage } from '@/core/content';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { matching } from '@/islands/pages/model';
import { findBackup, keepBackup } from '@/islands/editor/model';
import { send } from '@/islands/kit/send';

const page = (id: string, parent: string | null, title: string): ListedPage => ({
  id,
  parent,
  title,
  state: 'published',
  inNavigation: true,
  layout: '',
  language: 'en',
  author: null,
  address: '/',
  changedAt: '',
  visitors: '',
  below: 0,
  may: { edit: true, create: true, arrange: true, retire: true },
});
const tree = [
  page('1', null, 'Harbours'),
  page('2', '1', 'South Quay'),
  page('3', '2', 'Parking'),
  page('4', '1', 'Café am Kai'),
  page('5', '4', 'Menu'),
];
const shown = (typed: string) => matching(tree, typed).map((p) => p.id);

describe('finding a page by its title', () => {
  it.each([
    ['park', ['1', '2', '3'], 'keeps what lies above a title that fits'],
    ['QUAY', ['1', '2'], 'does not mind capitals'],
    ['cafe', ['1', '4'], 'does not mind accents'],
    ['harbours', ['1'], 'leaves out what lies below'],
    ['submarine', [], 'finds nothing where nothing fits'],
    ['  ', ['1', '2', '3', '4', '5'], 'shows everything when nothing is typed'],
  ])('“%s” shows %j: %s', (typed, ids) => {
    expect(shown(typed)).toEqual(ids);
  });
});

describe('text kept in the browser', () => {
  const store = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
    removeItem: (key: string) => void store.delete(key),
  });

  it('is kept for a person and a page, and let go', () => {
    const backup = { content: { title: 'x' }, version: 3, at: '2026-11-25T10:00:00Z' };
    keepBackup('ines', '7', backup);
    expect(findBackup('ines', '7')).toEqual(backup);
    expect(findBackup('tomas', '7')).toBeNull();
    keepBackup('ines', '7', null);
    expect(findBackup('ines', '7')).toBeNull();
  });

  it('that is spoilt counts as none, and a full store is no disaster', () => {
    store.set('safe-room-draft ines 8', '{"content":');
    expect(findBackup('ines', '8')).toBeNull();
    store.set('safe-room-draft ines 9', '"text"');
    expect(findBackup('ines', '9')).toBeNull();
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      setItem: () => {
        throw new Error('full');
      },
    });
    expect(() => keepBackup('ines', '8', { content: {}, version: 0, at: '' })).not.toThrow();
  });
});

describe('sending', () => {
  afterEach(() => vi.unstubAllGlobals());
  const answer = (status: number, body: string, type = 'application/json') => {
    const asked: { path: string; init: RequestInit }[] = [];
    vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
      asked.push({ path, init });
      return Promise.resolve(new Response(body, { status, headers: { 'content-type': type } }));
    });
    return asked;
  };

  it('carries JSON and a key that makes it safe to send again', async () => {
    const asked = answer(200, '{"id":1}');
    expect(await send('POST', '/api/vacancies', { title: 'Deckhand', page: '1' }, 'key-1')).toEqual({
      ok: true,
      value: { id: 1 },
    });
    expect(asked[0]?.init).toMatchObject({
      method: 'POST',
      body: '{"title":"Deckhand","page":"1"}',
      headers: { 'content-type': 'application/json', 'idempotency-key': 'key-1' },
    });
  });

  it('reads without a body and without a key', async () => {
    const asked = answer(200, '{}');
    await send('GET', '/api/ask');
    expect(asked[0]?.init.body).toBeUndefined();
    expect(asked[0]?.init.headers).toEqual({ accept: 'application/json' });
  });

  it('gives a refusal as the server tells it', async () => {
    answer(
      403,
      '{"kind":"refused","code":"not-yours","status":403,"title":"Not in your room","detail":"Ask Maud."}',
      'application/problem+json',
    );
    expect(await send('POST', '/api/sign-out')).toEqual({
      ok: false,
      problem: { kind: 'refused', code: 'not-yours', status: 403, title: 'Not in your room', detail: 'Ask Maud.' },
    });
  });

  it('never throws: no network, and answers that are no JSON, are told in words', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('network')));
    expect(await send('POST', '/api/sign-out')).toMatchObject({
      ok: false,
      problem: {
        code: 'offline',
        status: 0,
        detail: 'The website does not answer. Nothing was lost; try again in a moment.',
      },
    });
    answer(502, '<html>bad gateway</html>', 'text/html');
    expect(await send('POST', '/api/sign-out')).toMatchObject({
      ok: false,
      problem: { status: 502, detail: 'Something went wrong, and nothing was lost. Try again in a moment.' },
    });
  });
});
