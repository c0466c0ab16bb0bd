import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyOperation, screenRuleInWords, type Operation, type Plan } from '@/core/plan';
import { impactOf } from '@/core/release';
import { room, screensOf } from '@/core/room';
import {
  arrange,
  editScreens,
  elementOf,
  freestElement,
  isTheirs,
  panelOf,
  screenRuleSchema,
  type ElementState,
  type ScreenRule,
} from '@/core/screens';
import type { Place } from '@/core/access';
import { demo } from './operations';
import { person, PLACES } from './plans';
import { inventory } from '../inventory';

const SEED = 20261128;
const must = (plan: Plan, ...operations: Operation[]): Plan =>
  operations.reduce((now, operation) => {
    const done = applyOperation(inventory, now, operation);
    if (!done.ok) throw new Error(done.detail);
    return done.plan;
  }, plan);
const ines = person('ines', { role: 'harbour-desk', branch: '2' });
const places: Place[] = Object.values(PLACES);
const place = (more: Partial<Place> = {}): Place => ({
  path: ['1', '2'],
  layout: 'plain',
  state: 'published',
  author: null,
  ...more,
});
const set = (element: string, said: Extract<Operation, { do: 'set-element' }>['said'], where = {}): Operation => ({
  do: 'set-element',
  role: 'harbour-desk',
  element,
  place: where,
  said,
});

describe('which rule says what of an element', () => {
  const NAMES = {
    roles: ['a', 'b'],
    branches: ['1', '2', '3'],
    layouts: ['x', 'y'],
    states: ['draft', 'down'],
    days: [1, 6, 7],
  };
  const when = fc.record(
    {
      roles: fc.subarray(NAMES.roles, { minLength: 1 }),
      branch: fc.constantFrom(...NAMES.branches),
      layouts: fc.subarray(NAMES.layouts, { minLength: 1 }),
      states: fc.subarray(NAMES.states, { minLength: 1 }),
      days: fc.subarray(NAMES.days, { minLength: 1 }),
    },
    { requiredKeys: [] },
  );
  const then = fc.record(
    {
      show: fc.constantFrom('shown' as const, 'closed' as const, 'hidden' as const),
      lock: fc.constantFrom('one', 'two'),
      required: fc.constant(true as const),
    },
    { requiredKeys: [] },
  );
  const rules = fc
    .array(fc.record({ when, then }), { maxLength: 8 })
    .map((list) =>
      list.map(({ when: where, then: says }, i): ScreenRule => ({
        id: `r${i}`,
        when: { ...where, fields: ['f'] },
        then: says,
      })),
    );
  const spot = fc.record({
    path: fc.constantFrom<string[]>(['1'], ['1', '2'], ['1', '2', '3']),
    layout: fc.constantFrom(...NAMES.layouts),
    state: fc.constantFrom(...NAMES.states),
    field: fc.constantFrom('f', 'g'),
    day: fc.constantFrom(...NAMES.days),
  });
  // Written anew from what the rules promise, without looking at how they are ranked: of two that say something of the
  // same, the one that names a deeper branch, then layouts, then states, then days, then the role itself before one it extends
  // before none; else the later.
  it('is what a plain second reading says, aspect by aspect', () => {
    fc.assert(
      fc.property(rules, spot, (list, at) => {
        const extended = new Map([['b', new Set(['b', 'a'])]]);
        const beats = (one: ScreenRule, other: ScreenRule) => {
          const strength = ({ when: w }: ScreenRule) => [
            w.branch === undefined ? -1 : at.path.indexOf(w.branch),
            w.layouts ? 1 : 0,
            w.states ? 1 : 0,
            w.days ? 1 : 0,
            !w.roles ? 0 : w.roles.includes('b') ? 2 : 1,
          ];
          const [a, b] = [strength(one), strength(other)];
          for (let i = 0; i < 5; i++) if (a[i] !== b[i]) return (a[i] ?? 0) > (b[i] ?? 0);
          return list.indexOf(one) > list.indexOf(other);
        };
        const holds = list.filter(
          ({ when: w }) =>
            w.fields?.includes(at.field) &&
            (!w.roles || w.roles.some((role) => role === 'a' || role === 'b')) &&
            (w.branch === undefined || at.path.includes(w.branch)) &&
            (!w.layouts || w.layouts.includes(at.layout)) &&
            (!w.states || w.states.includes(at.state)) &&
            (!w.days || w.days.includes(at.day)),
        );
        const found = elementOf({ rules: list, extended }, 'b', at);
        for (const aspect of ['show', 'lock', 'required'] as const) {
          const says = holds.filter(({ then: t }) => aspect in t);
          const strongest = says.find((one) => says.every((other) => other === one || beats(one, other)));
          expect(found[aspect]).toEqual(strongest && (strongest.then as ElementState)[aspect]);
          expect(found.because[aspect]).toBe(strongest?.id);
        }
      }),
      { seed: SEED, numRuns: 2000 },
    );
  });
});

describe('several roles', () => {
  const state = (said: Omit<ElementState, 'because'>): ElementState => ({ ...said, because: {} });
  it('have of each aspect the freest that one of them has', () => {
    const free = freestElement([
      state({ show: 'hidden', lock: 'why', required: true, choices: ['a'], label: 'First' }),
      state({ show: 'closed', required: true, choices: ['b'], label: 'Second' }),
    ]);
    expect(free).toMatchObject({ show: 'closed', required: true, choices: ['a', 'b'], label: 'First' });
    expect(free.lock).toBeUndefined();
    expect(freestElement([state({ show: 'hidden' }), state({})]).show).toBeUndefined();
    expect(freestElement([state({ lock: 'one' }), state({ lock: 'two' })]).lock).toBe('one');
    expect(freestElement([state({ choices: ['a'] }), state({})]).choices).toBeUndefined();
  });
  it('never leave somebody less than one of the roles alone does', () => {
    const any = fc.record(
      { show: fc.constantFrom('shown' as const, 'closed' as const, 'hidden' as const), lock: fc.constant('x') },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 4 }), (list) => {
        const states = list.map(state);
        expect(isTheirs(freestElement(states)) || !states.some(isTheirs)).toBe(true);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});

describe('the order of a screen', () => {
  const ids: string[] = ['a', 'b', 'c', 'd', 'e'];
  it('doubles nothing and loses nothing, whatever is said of it', () => {
    const some = fc.array(fc.constantFrom(...ids, 'gone'));
    fc.assert(
      fc.property(fc.record({ main: some, side: some }), fc.subarray(ids), (arrangement, main) => {
        const side = ids.filter((id) => !main.includes(id));
        const now = arrange(arrangement, { main, side });
        expect([...now.main, ...now.side].sort()).toEqual(ids);
        // Arranged again it is as it is.
        expect(arrange(now, { main, side })).toEqual(now);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
  it('has every field and panel of every layout once, and each field of a panel with it', () => {
    for (const { type, layout, elements } of editScreens(inventory)) {
      expect(new Set(elements.map(({ id }) => id)).size).toBe(elements.length);
      for (const { id } of [...layout.fields, ...type.settings].filter(({ kind }) => kind !== 'picture'))
        expect(
          elements.map((one) => one.id),
          `${type.id} ${layout.id}`,
        ).toContain(id);
      for (const { id, panel } of elements) if (panel) expect(panelOf(inventory, type.id, id)).toBe(panel);
    }
  });
});

describe('a prepared edit screen', () => {
  it('takes from tasks what they need, says so, and gives it back', () => {
    const at = (plan: Plan) => room({ inventory, plan, person: ines, places, nowMs: 0 });
    const words = (plan: Plan) => at(plan).tasks.find(({ task }) => task === 'pages.words')?.verdict;
    expect(words(demo)).toEqual({ can: true });
    const locked = must(demo, set('body', { lock: 'The office writes it.' }), set('pieces', { lock: 'Likewise.' }));
    expect(words(locked)).toMatchObject({ can: false, missing: { kind: 'field' } });
    const noPanel = must(demo, set('pages.edit.note', { show: 'hidden' }));
    expect(at(noPanel).absent('pages.edit.note')).toContain('hidden on their edit screen');
    expect(at(demo).absent('pages.edit.note')).toBeNull();
    expect(must(locked, set('body', null), set('pieces', null)).screens).toEqual(demo.screens);
  });
  it('hides with a panel what lies in it, in the state a page has and once it is a draft', () => {
    const hidden = screensOf(inventory, must(demo, set('pages.edit.navigation', { show: 'hidden' })), ines, 0);
    expect(hidden.theirs('page', place(), 'page.inNavigation')).toBe(false);
    expect(hidden.theirs('page', place(), 'page.slug')).toBe(true);
    const drafts = screensOf(inventory, must(demo, set('summary', { show: 'hidden' }, { states: ['draft'] })), ines, 0);
    expect(drafts.theirs('page', place(), 'summary')).toBe(false);
    const there = screensOf(inventory, must(demo, set('summary', { show: 'hidden' }, { layouts: ['event'] })), ines, 0);
    expect([
      there.theirs('page', place(), 'summary'),
      there.theirs('page', place({ layout: 'event' }), 'summary'),
    ]).toEqual([true, false]);
  });
  it('cannot hide what has to be filled in, nor lock it, but for a title, which making asks for', () => {
    const needed = editScreens(inventory).flatMap(({ elements }) => elements.filter((element) => element.needed));
    expect(needed.some(({ id }) => id === 'title') && needed.some(({ id }) => id !== 'title')).toBe(true);
    for (const { id } of needed) {
      expect(applyOperation(inventory, demo, set(id, { show: 'hidden' })), id).toMatchObject({ code: 'needed-stays' });
      const locked = applyOperation(inventory, demo, set(id, { lock: 'no' }));
      expect(locked, id).toMatchObject(id === 'title' ? { ok: true } : { ok: false, code: 'needed-stays' });
    }
    const titles = screensOf(inventory, must(demo, set('title', { lock: 'Signs bear it.' })), ines, 0);
    expect(titles.theirs('page', place(), 'title')).toBe(false);
    expect(applyOperation(inventory, demo, set('title', { show: 'closed' })).ok).toBe(true);
    expect(applyOperation(inventory, demo, set('nothing', { show: 'closed' }))).toMatchObject({
      code: 'no-such-thing',
    });
  });
  it('counts the role that lets them write, not one that only looks', () => {
    const plan = must(demo, set('summary', { show: 'hidden' }));
    const both = person('both', { role: 'harbour-desk', branch: '2' }, { role: 'second-look' });
    expect(screensOf(inventory, plan, both, 0).theirs('page', place(), 'summary')).toBe(false);
    const more = person('more', { role: 'harbour-desk', branch: '2' }, { role: 'keyholder' });
    expect(screensOf(inventory, plan, more, 0).theirs('page', place(), 'summary')).toBe(true);
  });
  it('is told before going live: what is hidden and locked is a loss', () => {
    const effects = impactOf({
      inventory,
      before: demo,
      after: must(demo, set('summary', { show: 'hidden' }), set('page.day', { lock: 'The office sets it.' })),
      person: ines,
      places,
      pageName: (id) => id,
      nowMs: 0,
    }).map(({ kind, words }) => `${kind}: ${words}`);
    expect(effects).toContain('loss: “Summary” is hidden on edit screens.');
    expect(effects).toContain('loss: “Date of the page” is locked (“The office sets it.”) on edit screens.');
  });
  it('is told before going live: fewer choices are a loss, what is asked for is named, and so is what is no page', () => {
    const prepared = must(
      demo,
      set('page.layout', { choices: ['plain', 'event'] }),
      set('summary', { required: true, hint: 'In a sentence.' }),
    );
    const between = (before: Plan, after: Plan, who = ines) =>
      impactOf({ inventory, before, after, person: who, places, pageName: (id) => id, nowMs: 0 })
        .map(({ kind, words }) => `${kind}: ${words}`)
        .filter((one) => one.includes('edit screens'));
    expect(between(demo, prepared).sort()).toEqual([
      'loss: “Layout” offers fewer choices on edit screens.',
      'other: “Summary” is prepared otherwise on edit screens.',
      'other: “Summary” must be filled in on edit screens.',
    ]);
    expect(between(prepared, demo)).toContain('gain: “Layout” offers more choices on edit screens.');
    expect(between(prepared, demo)).toContain('other: “Summary” no longer has to be filled in on edit screens.');
    const juno = person('juno', { role: 'newsroom' });
    const vacancy = must(demo, {
      do: 'set-element',
      role: 'newsroom',
      element: 'terms',
      place: {},
      said: { lock: 'The office sets it.', value: 'part', choices: ['part', 'season'] },
    });
    expect(
      vacancy.screens.map((rule) => screenRuleInWords(inventory, rule, { role: () => 'Newsroom', page: (id) => id })),
    ).toContain(
      'Everywhere, for “Newsroom”: “How much work” is locked: “The office sets it.”, begins with “Part time” and offers only “Part time” and “For a season”.',
    );
    expect(between(demo, vacancy, juno)).toEqual([
      expect.stringMatching(/^loss: “.+” is locked \(“The office sets it.”\) on edit screens.$/),
    ]);
  });
  it('has rules whose form is checked', () => {
    expect(screenRuleSchema.safeParse({ id: 'x', when: {}, then: { show: 'sideways' } }).success).toBe(false);
    expect(screenRuleSchema.safeParse({ id: 'x', when: { fields: ['a'] }, then: { lock: '' } }).success).toBe(false);
  });
});
