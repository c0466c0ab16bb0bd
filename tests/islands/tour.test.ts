import { describe, expect, it } from 'vitest';
import { room } from '@/core/room';
import type { Tour } from '@/core/tour';
import { afterHappening, caughtUp, isDoneByPress, isTaken, situationOf } from '@/islands/tour/model';
import { demoPlan } from '@/demo/plan';
import { person, PLACES } from '../core/plans';
import { inventory } from '../inventory';

const demo = demoPlan(inventory, (key) => ({ home: '1', harbours: '2', cafe: '4' })[key] ?? '1');
const made = room({
  inventory,
  plan: demo,
  person: person('ines', { role: 'harbour-desk' }),
  places: Object.values(PLACES),
  nowMs: 0,
});
const tour = (task: string): Tour => {
  const found = made.tasks.find((t) => t.task === task);
  if (!found) throw new Error(`no task ${task}`);
  return found.tour;
};

describe('what the player shows for a stop', () => {
  const words = tour('pages.words');
  const index = (control: string) => words.stops.findIndex((stop) => stop.control === control);

  it('points at the control where it is', () => {
    expect(situationOf(words, 0, 'today', true, false)).toEqual({ status: 'pointing' });
  });

  it('waits for a control that belongs on this screen, and then says that it is not there', () => {
    const at = index('pages.edit.body');
    expect(situationOf(words, at, 'pages.edit', false, false)).toEqual({ status: 'waiting' });
    expect(situationOf(words, at, 'pages.edit', false, true)).toEqual({
      status: 'absent',
      why: '“Text” is not on this screen now.',
    });
  });

  it('says when a control appears, where that is known', () => {
    const notice = tour('notices.post');
    const at = notice.stops.findIndex((stop) => stop.control === 'notices.form.text');
    expect(situationOf(notice, at, 'notices.list', false, true)).toEqual({
      status: 'absent',
      why: '“What should visitors read?” is not on this screen now; it is there after “Post a notice” is pressed.',
    });
  });

  it('leads to another screen by its address', () => {
    expect(situationOf(words, index('pages.tree.tree'), 'today', false, false)).toEqual({
      status: 'elsewhere',
      path: '/room/pages',
      first: null,
      back: null,
    });
  });

  it('leads to the last screen that has an address, where a screen is only reached from another', () => {
    expect(situationOf(words, index('pages.edit.send'), 'today', false, false)).toEqual({
      status: 'elsewhere',
      path: '/room/pages',
      first: 'Open the page',
      back: null,
    });
    // On that screen already, what is wanted is opened there.
    expect(situationOf(words, index('pages.edit.send'), 'pages.tree', false, false)).toEqual({
      status: 'elsewhere',
      path: '/room/pages',
      first: 'Open the page',
      back: index('pages.tree.tree'),
    });
  });

  it('looks for doors on every screen', () => {
    expect(situationOf(words, 0, 'notices.list', false, false)).toEqual({ status: 'waiting' });
  });

  it('says at once why a stale stop cannot be shown, and ends after the last stop', () => {
    const people = tour('people.see');
    expect(situationOf(people, people.stops.length - 1, 'today', false, false)).toMatchObject({
      status: 'absent',
      why: expect.stringContaining('is not in this room') as string,
    });
    expect(situationOf(words, 99, 'today', false, false)).toEqual({ status: 'absent', why: 'The tour has ended.' });
  });
});

describe('a screen just reached', () => {
  const words = tour('pages.words');
  const tree = words.stops.findIndex((stop) => stop.control === 'pages.tree.tree');

  it('is where the tour goes on, when what led there was pressed before the player heard it', () => {
    expect(caughtUp(words, tree, 'pages.edit')).toBe(tree + 1);
    expect(caughtUp(words, 0, 'pages.tree')).toBe(1);
  });

  it('changes nothing when it is another, or what is to be done here is still to be done', () => {
    expect(caughtUp(words, tree, 'notices.list')).toBe(tree);
    expect(caughtUp(words, tree, 'pages.tree')).toBe(tree);
    expect(caughtUp(words, tree + 1, 'pages.edit')).toBe(tree + 1);
    expect(caughtUp(words, words.stops.length, 'pages.edit')).toBe(words.stops.length);
  });
});

describe('what moves a tour on', () => {
  const at = (of: Tour, control: string) => of.stops.findIndex((stop) => stop.control === control);
  const [post, words] = [tour('notices.post'), tour('pages.words')];
  it('is a press only where a press is all: not where it leads to another screen, nor where it may be refused', () => {
    expect(isDoneByPress(post, at(post, 'notices.list.post'))).toBe(true);
    expect(isDoneByPress(post, at(post, 'notices.form.send'))).toBe(false);
    expect(isDoneByPress(words, 0)).toBe(false);
    expect(isDoneByPress(words, at(words, 'pages.tree.tree'))).toBe(false);
    expect(isDoneByPress(words, at(words, 'pages.edit.send'))).toBe(false);
  });
  it('is what has happened, also before its stop is shown; what no stop waits for moves nothing', () => {
    expect(afterHappening(post, 2, 'POST /api/notices')).toBe(post.stops.length);
    expect(afterHappening(post, post.stops.length - 1, 'POST /api/notices')).toBe(post.stops.length);
    expect(afterHappening(post, 2, 'POST /api/items/[id]/send')).toBeUndefined();
    expect(afterHappening(words, 0, 'POST /api/notices')).toBeUndefined();
  });
  it('is taken when all has happened that it waits for; one that only shows is seen, never taken', () => {
    expect(isTaken(post, [])).toBe(false);
    expect(isTaken(post, ['POST /api/notices'])).toBe(true);
    expect(isTaken(tour('pages.find'), [])).toBe(false);
    const either = tour('pages.words');
    for (const way of ['send', 'publish'] as const) {
      expect(isTaken(either, [`POST /api/items/[id]/${way}`]), way).toBe(true);
      expect(afterHappening(either, 1, `POST /api/items/[id]/${way}`), way).toBe(either.stops.length);
    }
  });
  it('every task that changes something waits for its result', () => {
    for (const section of inventory.sections)
      for (const task of section.tasks.filter((one) => one.needs.some((need) => !need.endsWith('.view'))))
        expect(
          task.moves.some((move) => move.until !== undefined),
          task.id,
        ).toBe(true);
  });
});
