import { describe, expect, it } from 'vitest';
import type { PolicyPerson } from '@/core/access';
import { applyOperation, getRole, type Operation } from '@/core/plan';
import { neededBy } from '@/core/task';
import { demoPlan } from '@/demo/plan';
import {
  holdersOf,
  inheritedGrants,
  prepare,
  roomAfter,
  roomWithAllTasks,
  warnOf,
  type WorkshopFacts,
} from '@/islands/workshop/model';
import { allow, person, PLACES, plan, role } from '../core/plans';
import { inventory } from '../inventory';

const demo = demoPlan(inventory, (key) => ({ home: '1', harbours: '2', cafe: '4' })[key] ?? '1');
const ines = person('ines', { role: 'harbour-desk' });
const facts: WorkshopFacts = {
  role: 'harbour-desk',
  live: demo,
  own: {},
  people: [ines, person('tomas', { role: 'harbour-desk' }), person('priya', { role: 'second-look' })],
  pages: Object.entries(PLACES).map(([name, place]) => ({
    id: place.path.at(-1) ?? '',
    parent: place.path.at(-2) ?? null,
    title: name,
    place,
  })),
  nowMs: 0,
  calendar: { timeZone: 'Europe/London', language: 'en-GB' },
};
const closeNotices: Operation = { do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'closed' };
const after = (op: Operation) => {
  const applied = applyOperation(inventory, demo, op);
  if (!applied.ok) throw new Error(applied.detail);
  return applied.plan;
};

describe('the room now, in the Workshop', () => {
  it('is that of the role alone, or of the holder chosen', () => {
    expect(holdersOf(facts).map((p) => p.id)).toEqual(['ines', 'tomas']);
    expect(prepare(inventory, facts, demo, null).person).toMatchObject({
      id: '0',
      assignments: [{ role: 'harbour-desk' }],
    });
    expect(prepare(inventory, facts, demo, 'tomas').person.id).toBe('tomas');
    expect(prepare(inventory, facts, demo, 'priya').person.id).toBe('0');
    expect(prepare(inventory, facts, demo, 'tomas').told).toBeNull();
    expect(prepare(inventory, { ...facts, role: 'front-line' }, demo, null).person).toMatchObject({
      id: '0',
      assignments: [{ role: 'front-line' }],
    });
  });

  it('shows whoever is paused, has not begun or is over the room they would have, and says so', () => {
    const DAY = 86_400_000;
    const of = (who: PolicyPerson) => prepare(inventory, { ...facts, people: [who], nowMs: 100 * DAY }, demo, who.id);
    const [paused, later, over] = [
      of({ ...ines, suspended: true }),
      of(person('ines', { role: 'harbour-desk', fromMs: 150 * DAY })),
      of(person('ines', { role: 'harbour-desk', untilMs: 51 * DAY })),
    ];
    expect([paused, later, over].map((made) => made.told)).toEqual([
      'ines is paused and can do nothing now. This is the room they would have.',
      'ines holds this role only from 31 May. This is the room they would have.',
      'ines held this role until 21 February. This is the room they would have.',
    ]);
    for (const made of [paused, later, over]) expect(made.figuresNow.tasksThatCan).toBe(5);
  });

  it('tells the figures before and after, and what was lost', () => {
    const prepared = prepare(inventory, facts, after(closeNotices), null);
    expect([prepared.figuresBefore.tasksThatCan, prepared.figuresNow.tasksThatCan]).toEqual([5, 3]);
    expect(prepared.loss.tasks).toEqual(['Post a sailing notice', 'End a sailing notice']);
    expect(prepare(inventory, facts, demo, null).loss).toEqual({ tasks: [], stops: [] });
  });

  it('warns of what a change would take away before it is made', () => {
    const { now } = prepare(inventory, facts, demo, null);
    const would = (op: Operation) => warnOf('it', 'Closing', now, roomAfter(inventory, facts, demo, ines, [op]));
    expect(would(closeNotices)).toBe(
      'Closing it would block 2 tasks: “Post a sailing notice”, “End a sailing notice”.',
    );
    expect(would({ do: 'set-door', role: 'harbour-desk', section: 'pictures', state: 'closed' })).toBe(
      'Closing it would block 1 task: “Swap a harbour picture”.',
    );
    expect(roomAfter(inventory, facts, demo, ines, [{ ...closeNotices, section: 'nowhere' }])).toBeUndefined();
  });

  it('tells of tasks that are not ticked whether they could be done', () => {
    const all = roomWithAllTasks(inventory, facts, demo, ines);
    expect(all.tasks.length).toBe(inventory.tasks.size);
    expect(all.tasks.find((t) => t.task === 'pages.link')?.verdict).toEqual({ can: true });
    expect(all.tasks.find((t) => t.task === 'pages.publish')?.verdict).toEqual({
      can: false,
      missing: { kind: 'permission', id: 'page.publish' },
    });
    // Names of ticked tasks stay the site's own.
    expect(all.tasks.find((t) => t.task === 'notices.post')?.name).toBe('Post a sailing notice');
  });
});

describe('access, in the Workshop', () => {
  it('knows what the ticked tasks need, with the screens they go through', () => {
    const needed = neededBy(inventory, getRole(demo, 'harbour-desk'));
    expect(needed.get('notice.post')).toEqual(['Post a sailing notice']);
    expect(needed.get('page.view')).toEqual([
      'Change the words on a harbour page',
      'Swap a harbour picture',
      'Find a page',
    ]);
    expect(needed.has('page.publish')).toBe(false);
  });

  it('shows what comes from other roles, from however far, once each', () => {
    const p = plan(
      role('base', { grants: [allow('notice.view')] }),
      role('mid', { extends: ['base'], grants: [allow('notice.post')] }),
      role('top', { extends: ['mid', 'base'] }),
    );
    expect(inheritedGrants(p, getRole(p, 'top')).map(({ grant, from }) => [grant.permission, from])).toEqual([
      ['notice.post', 'mid'],
      ['notice.view', 'base'],
    ]);
    expect(inheritedGrants(p, getRole(p, 'base'))).toEqual([]);
  });
});
