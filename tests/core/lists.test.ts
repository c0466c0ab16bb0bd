import { describe, expect, it } from 'vitest';
import { filterFrom, joinLists, NO_FILTER, type PageListSetup } from '@/core/lists';
import { differences } from '@/core/release';
import { applyOperation, type Plan } from '@/core/plan';
import { room } from '@/core/room';
import { person, plan, PLACES, role } from './plans';
import { inventory } from '../inventory';

describe('a filter in an address', () => {
  const from = (query: string) => filterFrom(new Map(new URLSearchParams(query)), { ...NO_FILTER, sort: 'title' });
  it('sets what it names, and leaves out what does not fit', () => {
    expect(from('view=list&state=draft&days=7')).toEqual({ ...NO_FILTER, sort: 'title', state: 'draft', days: 7 });
    expect(from('state=nonsense&days=many&links=broken')).toEqual({ ...NO_FILTER, sort: 'title', links: 'broken' });
    expect(from(`q=${'x'.repeat(300)}&sort=place&dir=up`)).toEqual({ ...NO_FILTER, sort: 'place', dir: 'up' });
  });
});

describe('the list of pages', () => {
  const filter = (name: string, layout = '') => ({ name, filter: { ...NO_FILTER, layout } });
  const first: PageListSetup = { columns: ['state'], filters: [filter('Drafts', 'plain')] };
  const second: PageListSetup = {
    view: 'list',
    columns: ['author'],
    sort: { by: 'title', dir: 'up' },
    filters: [filter('Drafts'), filter('All')],
  };
  it('of somebody with several roles is what the first says of each thing, with the filters of all', () => {
    expect(joinLists([first, second])).toEqual({
      view: 'list',
      columns: ['state'],
      sort: { by: 'title', dir: 'up' },
      filters: [filter('Drafts', 'plain'), filter('All')],
    });
    expect(joinLists([])).toEqual({ filters: [] });
  });
  it('is prepared for a role, told in words, and in the room of whoever holds it', () => {
    const before = plan(role('desk'), role('gate'));
    const done = applyOperation(inventory, before, { do: 'set-page-list', role: 'desk', list: second });
    if (!done.ok) throw new Error(done.detail);
    const of = (p: Plan, ...held: string[]) =>
      room({
        inventory,
        plan: p,
        person: person('ines', ...held.map((one) => ({ role: one }))),
        places: Object.values(PLACES),
        nowMs: 0,
      }).list;
    expect(of(done.plan, 'gate', 'desk')).toEqual(second);
    expect(of(done.plan, 'gate')).toEqual({ filters: [] });
    expect(differences(inventory, before, done.plan, (id) => id).flatMap(({ lines }) => lines)).toEqual([
      'The list of pages begins as a table.',
      'Columns of the list of pages: Author.',
      'The list of pages is sorted by title, upwards.',
      'New filter above the list of pages: “Drafts”.',
      'New filter above the list of pages: “All”.',
    ]);
    // Nothing said is as if nothing had ever been prepared.
    const undone = applyOperation(inventory, done.plan, { do: 'set-page-list', role: 'desk', list: { filters: [] } });
    expect(undone.ok && undone.plan.roles[0]?.pageList).toBeUndefined();
  });
});
