import { describe, expect, it } from 'vitest';
import type { Question } from '@/core/access';
import { applyOperation, decideDeed, policyOf, remediesForDeed, takenFor, type Plan } from '@/core/plan';
import { DEMO_PEOPLE } from '@/demo/people';
import { demoPlaces } from '@/demo/places';
import { demoPlan } from '@/demo/plan';
import { inventory } from '@/office';
import { allow, person, plan, PLACES, role } from './plans';

const open = (...sections: string[]) => sections.map((section) => ({ section, state: 'open' as const }));
const apply = (p: Plan, operations: Parameters<typeof applyOperation>[2][]) =>
  operations.reduce((now, operation) => {
    const done = applyOperation(inventory, now, operation);
    if (!done.ok) throw new Error(done.detail);
    return done.plan;
  }, p);

describe('what it takes to do something', () => {
  it('is to look at it, too, where it is done on a screen that shows it', () => {
    expect(takenFor(inventory, 'page.publish')).toEqual(['page.publish', 'page.view']);
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
      { do: 'add-grant', grant: { permission: 'page.view', scope: { branch: '4', only: true } } },
    ]);
    // Also where the permission itself is there already.
    const may = plan(role('desk', { grants: [allow('page.publish')], doors: open('pages') }));
    expect(decideDeed(inventory, policyOf(inventory, may, people), ask)).toMatchObject({
      permission: 'page.view',
      decision: { allowed: false },
    });
    expect(remediesForDeed(inventory, may, people, ask).length).toBeGreaterThan(0);
  });

  it('is there once what is offered is prepared: every permission, everybody of the demo, pages of every kind', () => {
    const demo = demoPlan((key) => key);
    const places = [...new Map(demoPlaces().map((place) => [place.layout, place])).values()].slice(0, 3);
    const people = DEMO_PEOPLE.filter(({ assignments }) => !assignments.some((a) => a.role === 'keyholder')).map(
      (one, i) => person(`p${i}`, ...one.assignments.map((a) => ({ role: a.role }))),
    );
    const counts = { offered: 0, several: 0 };
    for (const one of people)
      for (const { id: permission, placed } of inventory.permissions.values())
        for (const place of placed ? places : [undefined]) {
          const ask: Question = { person: one.id, permission, author: one.id, ...(place && { place }), atMs: 1000 };
          const isYes = decideDeed(inventory, policyOf(inventory, demo, people), ask).decision.allowed;
          const remedies = remediesForDeed(inventory, demo, people, ask);
          if (isYes) expect(remedies).toEqual([]);
          for (const remedy of remedies) {
            if (remedy.kind !== 'plan') continue;
            counts.offered++;
            if (remedy.operations.length > 1) counts.several++;
            const after = policyOf(inventory, apply(demo, remedy.operations), people);
            expect(
              decideDeed(inventory, after, ask).decision.allowed,
              `${one.id} ${permission} ${place?.path.join('.')}: ${JSON.stringify(remedy.operations)}`,
            ).toBe(true);
          }
        }
    expect(counts.offered).toBeGreaterThan(200);
    expect(counts.several).toBeGreaterThan(50);
  });
});
