import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  apartOf,
  canonicalWhen,
  CONDITION_IDS,
  CONDITIONS,
  holdsAt,
  keptBySpot,
  namesIn,
  othersOf,
  rankedRules,
  ranksAt,
  strengthOf,
  whenSchema,
  WEEKDAYS,
  whereInWords,
  type ConditionId,
  type Spot,
  type When,
} from '@/core/rules';

// What is promised of every condition of rules, whichever there are: a further one is tried here without a line.

const SEED = 20261202;
const called = (kind: string) => (id: string) => `${kind} ${id}`;
const names = {
  role: called('role'),
  page: called('page'),
  layout: called('layout'),
  field: called('field'),
  state: called('state'),
};
const samples = (id: ConditionId): When[] => CONDITIONS[id].samples.map((said) => ({ [id]: said }));
/** Every value that is named by samples, and one that none names. */
const valuesOf = (id: ConditionId) => [...CONDITIONS[id].samples.flat(), id === 'days' ? 7 : 'other'];
const spot: fc.Arbitrary<Spot> = fc.record({
  path: fc.subarray(['0', '1', '2'], { minLength: 1 }),
  layout: fc.constantFrom(...(valuesOf('layouts') as string[])),
  field: fc.constantFrom(...(valuesOf('fields') as string[])),
  state: fc.constantFrom(...(valuesOf('states') as string[])),
  day: fc.constantFrom(...WEEKDAYS),
});
/** What samples say, and of those that are lists also all of it at once: two rules that differ may hold together. */
const sayings = (id: ConditionId): When[] => {
  const all = CONDITIONS[id].samples.flat();
  return [...samples(id), ...(Array.isArray(CONDITIONS[id].samples[0]) ? [{ [id]: all }] : [])];
};
const when: fc.Arbitrary<When> = fc
  .tuple(...CONDITION_IDS.map((id) => fc.option(fc.constantFrom(...sayings(id)), { nil: {} })))
  .map((parts) => Object.assign({}, ...parts) as When);
const rules = fc.array(when, { maxLength: 6 }).map((list) => list.map((one, i) => ({ id: `r${i}`, when: one })));
const KNOWN = { states: valuesOf('states') as string[], days: WEEKDAYS };

describe.each(CONDITION_IDS)('a rule that says something of %s', (id) => {
  const [one = {}, other = {}] = samples(id);
  it('can be written down and read, says another thing by other words, and is another rule', () => {
    expect(whenSchema.parse(one)).toEqual(one);
    expect(whereInWords(one, names)).not.toBe(whereInWords(other, names));
    expect(whereInWords(one, names)).not.toBe(whereInWords({}, names));
    expect(canonicalWhen(one)).not.toEqual(canonicalWhen(other));
    expect(canonicalWhen(canonicalWhen(one))).toEqual(canonicalWhen(one));
    expect(whenSchema.parse(canonicalWhen(one))).toEqual(canonicalWhen(one));
    expect(whereInWords(one, names)).toMatch(/^[A-Z]/);
  });
  it('is about one part of a spot alone', () => {
    const { part } = CONDITIONS[id];
    fc.assert(
      fc.property(spot, spot, (at, elsewhere) => {
        expect(holdsAt(one, { ...elsewhere, [part]: at[part] })).toBe(holdsAt(one, at));
      }),
      { seed: SEED },
    );
  });
  it('is asked for by a name of its own, among what it can say', () => {
    const { label, among } = CONDITIONS[id].asks;
    expect(CONDITION_IDS.filter((each) => CONDITIONS[each].asks.label === label)).toEqual([id]);
    if (typeof among === 'string') expect(namesIn(one).map(({ kind }) => kind)).toContain(among);
    else expect(among).toEqual(expect.arrayContaining(CONDITIONS[id].samples.flat() as number[]));
  });
  it('says the same whatever order its list has, with one of it twice', () => {
    const said: unknown = other[id];
    if (!Array.isArray(said)) return;
    expect(canonicalWhen({ [id]: [...(said as unknown[]).toReversed(), said[0]] })).toEqual(canonicalWhen(other));
  });
  it('holds on some spots and not on others, is stronger than one that says nothing, and only where it holds', () => {
    const seen = new Set<boolean>();
    fc.assert(
      fc.property(spot, (at) => {
        const holds = holdsAt(one, at);
        seen.add(holds);
        if (!holds) return;
        const [mine, none] = [ranksAt(one, at), ranksAt({}, at)];
        expect(mine.some((rank, i) => rank > (none[i] ?? 0))).toBe(true);
        const ranked = rankedRules(
          [
            { id: 'one', when: one },
            { id: 'bare', when: {} },
          ],
          'a',
          new Set(['a']),
          at,
        );
        expect(ranked.map((rule) => rule.id)).toEqual(['bare', 'one']);
      }),
      { seed: SEED },
    );
    expect([...seen].sort()).toEqual([false, true]);
  });
  it('names what it names, each where it stands', () => {
    for (const { kind, id: named, at } of namesIn(one)) {
      const there = at.reduce<unknown>((value, step) => (value as Record<string | number, unknown>)[step], one);
      expect(there, kind).toBe(named);
      expect(whereInWords(one, names)).toContain(called(kind)(named));
    }
    const strings = [one[id] as unknown].flat().filter((value) => typeof value === 'string');
    expect(namesIn(one).map((name) => name.id)).toEqual(strings);
  });
});

describe('rules, whatever they say', () => {
  it('are as strong by what they have alike wherever both hold, and only then', () => {
    const seen = new Set<boolean>();
    fc.assert(
      fc.property(when, when, fc.array(spot, { minLength: 60, maxLength: 60 }), (a, b, spots) => {
        const both = spots.filter((at) => holdsAt(a, at) && holdsAt(b, at));
        if (both.length === 0) return;
        const alike = JSON.stringify(strengthOf(a)) === JSON.stringify(strengthOf(b));
        seen.add(alike);
        const ranks = both.map((at) => JSON.stringify(ranksAt(a, at)) === JSON.stringify(ranksAt(b, at)));
        expect(ranks.every((same) => same === alike)).toBe(true);
      }),
      { seed: SEED, numRuns: 500 },
    );
    expect(seen.size).toBe(2);
  });
  it('that are kept by what tells spots apart answer as if each were asked anew', () => {
    const answer = (list: readonly { id: string; when: When }[], at: Spot) =>
      rankedRules(list, 'a', new Set(['a']), at).map(({ id }) => id);
    fc.assert(
      fc.property(rules, fc.array(spot, { minLength: 8, maxLength: 20 }), (list, spots) => {
        const kept = keptBySpot(list, (_, at) => answer(list, at));
        for (const at of spots) expect(kept(['a'], at)).toEqual(answer(list, at));
      }),
      { seed: SEED, numRuns: 800 },
    );
  });
  it('are told apart on every state and day that one of them names: what holds somewhere holds on one of those', () => {
    const place = fc.record({
      path: fc.constant(['0', '1']),
      layout: fc.constant('plain'),
      field: fc.constant('body'),
    });
    fc.assert(
      fc.property(rules, place, spot, (list, at, { state, day }) => {
        const others = othersOf(list, KNOWN)(at);
        const held = (one: Spot) => list.filter((rule) => holdsAt(rule.when, one)).map(({ id }) => id);
        expect(others.map(held)).toContainEqual(held({ ...at, state, day }));
      }),
      { seed: SEED, numRuns: 800 },
    );
  });
  it('say what sets spots apart only where some of them are not meant', () => {
    const list = [{ when: { days: [6] } }];
    const at = { path: ['0'], layout: 'plain', field: 'body', state: 'draft' };
    const on = (...days: number[]) => days.map((day): Spot => ({ ...at, day }));
    expect(apartOf(list, on(6), KNOWN)).toEqual({ days: [6] });
    expect(apartOf(list, on(6, 7), KNOWN)).toEqual({ days: [6, 7] });
    expect(apartOf(list, on(...WEEKDAYS), KNOWN)).toEqual({});
    expect(apartOf([], on(6), KNOWN)).toEqual({});
    expect(apartOf([{ when: { states: ['draft'] } }], on(6), KNOWN)).toEqual({ states: ['draft'] });
  });
});
