import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Place } from '@/core/access';
import { pagesInWords, type ImpactInput } from '@/core/release/effects';

const SEED = 20261201;
/** Random trees: of each page the number of the one above it; the first is the top. */
const trees = fc
  .array(fc.nat(), { minLength: 1, maxLength: 14 })
  .map((above) => above.map((n, i) => (i === 0 ? -1 : n % i)))
  .map((above) =>
    above.map((_, i) => {
      const path: string[] = [];
      for (let at = i; at >= 0; at = above[at] ?? -1) path.unshift(String(at));
      return { path, layout: 'plain', state: 'published', author: null } satisfies Place;
    }),
  );

/** What a sentence about pages says, read word by word: of each page named how much of what lies below is meant. */
function read(words: string): { all: boolean; named: { id: string; below: 'all' | number }[]; more: number } {
  if (words === 'on the whole website') return { all: true, named: [], more: 0 };
  const [, list = '', more = '0'] = /^on (.+?)(?: and (\d+) more)?$/.exec(words) ?? [];
  return {
    all: false,
    more: Number(more),
    named: list.split(', ').map((one) => {
      const [, id = '', all, count = '0'] = /^“(\d+)”(?: and (all|(\d+)) below)?$/.exec(one) ?? [];
      return { id, below: all === 'all' ? 'all' : Number(count) };
    }),
  };
}

it(`says which pages, so that reading it gives just them again (seed ${SEED})`, () => {
  let told = 0;
  fc.assert(
    fc.property(trees, fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }), (places, chosen) => {
      const ids = places.map(({ path }) => path.at(-1) ?? '');
      const meant = new Set(ids.filter((_, i) => chosen[i]));
      if (meant.size === 0) return;
      const { all, named, more } = read(
        pagesInWords(meant, { places, pageName: (id: string) => id } as unknown as ImpactInput),
      );
      expect(all).toBe(meant.size === ids.length);
      if (all) return;
      const below = (id: string) =>
        places.filter(({ path }) => path.slice(0, -1).includes(id)).map(({ path }) => path.at(-1) ?? '');
      const seen = new Set<string>();
      for (const { id, below: how } of named) {
        expect(meant.has(id), id).toBe(true);
        const inside = below(id).filter((one) => meant.has(one));
        // A page with nothing below it is named alone, not "with all below".
        expect(how).toBe(inside.length > 0 && inside.length === below(id).length ? 'all' : inside.length);
        for (const one of [id, ...inside]) seen.add(one);
        told++;
      }
      expect(named.length).toBeLessThanOrEqual(4);
      if (more === 0) expect([...seen].sort()).toEqual([...meant].sort());
      else {
        // Nothing that is left out lies below one that is named, and as many more tops are counted as there are.
        const tops = [...meant].filter((id) => ![...meant].some((other) => below(other).includes(id)));
        expect(more).toBe(tops.length - 4);
      }
    }),
    { seed: SEED, numRuns: 2000 },
  );
  expect(told).toBeGreaterThan(2000);
});
