import { describe, expect, it } from 'vitest';
import type { Question } from '@/core/access';
import { applyOperation, reachOf, type Plan } from '@/core/plan';
import { askableElements, decideDeed, remediesForDeed, takenFor, type DeedQuestion } from '@/core/room';
import { DEMO_PEOPLE } from '@/demo/people';
import { demoPlaces } from '@/demo/places';
import { demoPlan } from '@/demo/plan';
import { allow, person, plan, PLACES, role } from './plans';
import { inventory } from '../inventory';

const open = (...sections: string[]) => sections.map((section) => ({ section, state: 'open' as const }));
const apply = (p: Plan, operations: Parameters<typeof applyOperation>[2][]) =>
  operations.reduce((now, operation) => {
    const done = applyOperation(inventory, now, operation);
    if (!done.ok) throw new Error(done.detail);
    return done.plan;
  }, p);

describe('what it takes to do something', () => {
  it('is to look at it, too, where it is done on a screen that shows it', () => {
    expect(takenFor(inventory, 'page.publish')).toEqual(['page.publish', 'page.edit', 'page.view']);
    expect(takenFor(inventory, 'page.view')).toEqual(['page.view']);
    expect(takenFor(inventory, 'vacancy.edit')).toEqual(['vacancy.edit', 'vacancy.view']);
  });

  it('is prepared as a whole: who may publish and not look may look, too, afterwards, as far as the first goes', () => {
    const p = plan(role('desk', { grants: [allow('page.publish', { branch: '2' })], doors: open('pages') }));
    const people = [person('ines', { role: 'desk' })];
    const ask: Question = { person: 'ines', permission: 'page.publish', place: PLACES.cafe, atMs: 1000 };
    const [first] = remediesForDeed(inventory, p, people, ask);
    expect(first?.kind === 'plan' && first.operations).toMatchObject([
      { do: 'add-grant', grant: { permission: 'page.publish', scope: { branch: '4', only: true } } },
      { do: 'add-grant', grant: { permission: 'page.edit', scope: { branch: '4', only: true } } },
      { do: 'add-grant', grant: { permission: 'page.view', scope: { branch: '4', only: true } } },
    ]);
    // Also where the permission itself is there already.
    const may = plan(role('desk', { grants: [allow('page.publish')], doors: open('pages') }));
    expect(decideDeed(inventory, may, people, ask)).toMatchObject({
      permission: 'page.edit',
      decision: { allowed: false },
    });
    expect(remediesForDeed(inventory, may, people, ask).length).toBeGreaterThan(0);
  });

  it('is there once what is offered is prepared: every permission, everybody of the demo, pages of every kind', () => {
    const demo = demoPlan(inventory, (key) => key);
    const places = [...new Map(demoPlaces().map((place) => [place.layout, place])).values()].slice(0, 3);
    const people = DEMO_PEOPLE.filter(({ assignments }) => !assignments.some((a) => a.role === 'keyholder')).map(
      (one, i) => person(`p${i}`, ...one.assignments.map((a) => ({ role: a.role }))),
    );
    const counts = { offered: 0, several: 0 };
    for (const one of people)
      for (const { id: permission, placed } of inventory.permissions.values())
        for (const place of placed ? places : [undefined]) {
          const ask: Question = { person: one.id, permission, author: one.id, ...(place && { place }), atMs: 1000 };
          const isYes = decideDeed(inventory, demo, people, ask).allowed;
          const remedies = remediesForDeed(inventory, demo, people, ask);
          if (isYes) expect(remedies).toEqual([]);
          for (const remedy of remedies) {
            if (remedy.kind !== 'plan') continue;
            counts.offered++;
            if (remedy.operations.length > 1) counts.several++;
            expect(
              decideDeed(inventory, apply(demo, remedy.operations), people, ask).allowed,
              `${one.id} ${permission} ${place?.path.join('.')}: ${JSON.stringify(remedy.operations)}`,
            ).toBe(true);
          }
        }
    expect(counts.offered).toBeGreaterThan(200);
    expect(counts.several).toBeGreaterThan(50);
  });

  it('goes down to the field, the panel and the tool: hidden, locked, cut off by a rule, not given', () => {
    const said = { roles: ['desk'], fields: ['pages.edit.address'] };
    const p: Plan = {
      ...plan(role('desk', { grants: [allow('page.*')], doors: open('pages') })),
      screens: [
        { id: 'hide', when: said, then: { show: 'hidden' } },
        { id: 'lock', when: { fields: ['body'] }, then: { lock: 'Ask the office.' } },
      ],
      toolbars: {
        sets: [{ id: 'few', name: 'Few', add: ['bold'], take: [] }],
        rules: [
          { id: 'writes', when: { roles: ['desk'] }, then: { use: 'few' } },
          { id: 'most', when: {}, then: { cap: ['bold', 'italic'] } },
        ],
      },
    };
    const people = [person('ines', { role: 'desk' })];
    const ask = (more: Partial<DeedQuestion>): DeedQuestion => ({
      person: 'ines',
      permission: 'page.edit',
      place: PLACES.cafe,
      atMs: 1000,
      ...more,
    });
    expect(decideDeed(inventory, p, people, ask({})).allowed).toBe(true);
    for (const [more, stop] of [
      [{ element: 'pages.edit.address' }, { kind: 'hidden', element: 'pages.edit.address' }],
      // What lies in a hidden panel is hidden, too.
      [{ element: 'page.slug' }, { kind: 'hidden', element: 'page.slug' }],
      [{ element: 'body' }, { kind: 'locked', element: 'body', reason: 'Ask the office.' }],
      [{ tool: 'italic' }, { kind: 'tool', tool: 'italic' }],
      [{ tool: 'table' }, { kind: 'tool', tool: 'table' }],
    ] as const) {
      expect(decideDeed(inventory, p, people, ask(more)), JSON.stringify(more)).toMatchObject({ allowed: false, stop });
      const ways = remediesForDeed(inventory, p, people, ask(more));
      expect(ways.length, JSON.stringify(more)).toBeGreaterThan(0);
      for (const way of ways) {
        if (way.kind !== 'plan') throw new Error('another way than by the plan');
        expect(decideDeed(inventory, apply(p, way.operations), people, ask(more)).allowed).toBe(true);
      }
    }
  });

  it('says whom it reaches besides, also by a rule for everybody, and takes nothing else that was prepared along', () => {
    const rule = (id: string, when: object, then: object): Plan['screens'][number] => ({ id, when, then });
    const base = plan(
      role('desk', { grants: [allow('page.*')], doors: open('pages') }),
      role('pier', { extends: ['desk'], doors: open('pages') }),
      role('gate'),
    );
    const people = [
      person('ines', { role: 'desk' }),
      person('nils', { role: 'pier' }),
      person('sam', { role: 'gate' }),
      person('none'),
    ];
    const ways = (screens: Plan['screens'], more: Partial<DeedQuestion>, rules: Plan['toolbars']['rules'] = []) =>
      remediesForDeed(inventory, { ...base, screens, toolbars: { sets: [], rules } }, people, {
        person: 'ines',
        permission: 'page.edit',
        place: PLACES.cafe,
        atMs: 1000,
        ...more,
      });
    const body = { element: 'body' };
    // For everybody: doing away with it reaches whoever holds a role at all.
    expect(ways([rule('all', { fields: ['body'] }, { lock: 'No.' })], body)).toEqual([
      { kind: 'plan', operations: [{ do: 'remove-screen-rule', role: 'desk', rule: 'all' }], alsoFor: ['nils', 'sam'] },
    ]);
    // Of this role alone: what else it says stays, and whoever builds on it is reached.
    expect(ways([rule('own', { roles: ['desk'], fields: ['body'] }, { lock: 'No.', hint: 'Short.' })], body)).toEqual([
      {
        kind: 'plan',
        operations: [{ do: 'set-element', role: 'desk', element: 'body', place: {}, said: { hint: 'Short.' } }],
        alsoFor: ['nils'],
      },
    ]);
    // Where more would go with it, it is not offered.
    for (const [when, then] of [
      [{ fields: ['body'] }, { lock: 'No.', hint: 'Short.' }],
      [{ fields: ['body', 'summary'] }, { lock: 'No.' }],
      [
        { roles: ['desk', 'gate'], fields: ['body'] },
        { lock: 'No.', required: true },
      ],
    ] as const)
      expect(ways([rule('more', when as never, then)], body)).toEqual([]);
    // A cap for everybody, made wider, is wider for everybody: offered behind what is for the role alone, or by itself.
    const capped = ways([], { tool: 'italic' }, [
      { id: 'own', when: { roles: ['desk'] }, then: { add: ['bold', 'italic'] } },
      { id: 'cap', when: {}, then: { cap: ['bold'] } },
    ]);
    expect(capped.length).toBeGreaterThan(0);
    for (const way of capped) expect(way.kind === 'plan' && way.alsoFor).toEqual(['nils', 'sam']);
  });

  it('is offered for every field, panel and tool on every layout, and what is offered makes the answer yes', () => {
    const demo = demoPlan(inventory, (key) => key);
    const places = [...new Map(demoPlaces().map((place) => [place.layout, place])).values()];
    const people = DEMO_PEOPLE.filter(({ assignments }) => !assignments.some((a) => a.role === 'keyholder')).map(
      (one, i) => person(`p${i}`, ...one.assignments.map((a) => ({ role: a.role }))),
    );
    const counts = { asked: 0, offered: 0, without: [] as string[] };
    for (const one of people)
      for (const place of places)
        for (const more of [
          ...askableElements(inventory, 'page.edit', place.layout).map(({ id }) => ({ element: id })),
          ...[...inventory.tools.keys()].map((tool) => ({ tool })),
        ]) {
          const ask: DeedQuestion = { person: one.id, permission: 'page.edit', place, atMs: 1000, ...more };
          if (decideDeed(inventory, demo, people, ask).allowed) continue;
          // Every seventh, so that each comes up with somebody, somewhere.
          if (counts.asked++ % 7 > 0) continue;
          const ways = remediesForDeed(inventory, demo, people, ask);
          if (ways.length === 0) counts.without.push(`${one.id} ${place.layout} ${JSON.stringify(more)}`);
          for (const way of ways) {
            if (way.kind !== 'plan') continue;
            counts.offered++;
            expect(
              decideDeed(inventory, apply(demo, way.operations), people, ask).allowed,
              `${JSON.stringify(more)}: ${JSON.stringify(way.operations)}`,
            ).toBe(true);
          }
        }
    expect(counts.asked).toBeGreaterThan(300);
    expect(counts.offered).toBeGreaterThan(counts.asked / 7);
    expect(counts.without).toEqual([]);
  });
});

describe('how far an assignment reaches', () => {
  it('is told of each section: notices everywhere and pages on one branch are two things', () => {
    const p = plan(
      role('desk', { grants: [allow('notice.post'), allow('page.edit', { branch: '2' }), allow('page.view')] }),
      role('bell', { grants: [allow('notice.post', { branch: '4', only: true })] }),
    );
    const reach = (of: string, section?: string, branch?: string) =>
      reachOf(inventory, p, { role: of, ...(branch && { branch }) }, section);
    expect(reach('desk')).toBe('whole');
    expect(reach('desk', 'notices')).toBe('whole');
    expect(reach('desk', 'notices', '4')).toEqual([{ branch: '4' }]);
    expect(reach('desk', 'pages')).toEqual([{ branch: '2' }]);
    expect(reach('desk', 'vacancies')).toEqual([]);
    expect(reach('bell', 'notices')).toEqual([{ branch: '4', only: true }]);
    expect(reach('bell', 'pages')).toEqual([]);
  });
});
