import { describe, expect, it } from 'vitest';
import { PAGE_STATES } from '@/core/access';
import { worldOfToolbars } from '@/core/plan';
import { writingOf } from '@/core/room';
import { toolFindings } from '@/core/toolbar';
import { ALL_SPOTS, writingMap } from '@/islands/workshop/toolbar/model';
import { allow, person, plan, PLACES, role, withTools } from '../core/plans';
import { inventory } from '../inventory';

describe('the places the Workshop looks at', () => {
  const made = withTools(
    plan(role('a', { grants: [allow('page.edit')], doors: [{ section: 'pages', state: 'open' }] })),
    { a: ['bold'] },
  );
  const ines = person('ines', { role: 'a' });
  const pages = Object.values(PLACES).map((place) => ({
    id: place.path.at(-1) ?? '',
    parent: place.path.at(-2) ?? null,
    title: place.path.join('/'),
    place,
  }));
  const facts = {
    role: 'a',
    live: made,
    own: {},
    people: [ines],
    pages,
    nowMs: 0,
    calendar: { timeZone: 'Europe/London', language: 'en-GB' },
  };

  it('are those of every state where a rule names one: a rule for published pages is not said to do nothing', () => {
    const toolbars = {
      ...made.toolbars,
      rules: [...made.toolbars.rules, { id: 'q', when: { states: ['published'] }, then: { take: ['bold'] } }],
    };
    const p = { ...made, toolbars };
    const map = writingMap(inventory, facts, p, ines, '', ALL_SPOTS);
    const found = toolFindings({
      world: worldOfToolbars(inventory.tools.keys(), toolbars, p.roles),
      spots: map.spots,
      role: 'a',
      writes: (_, spot) => map.writes(spot),
      held: new Set(['a']),
      tasks: [],
    });
    expect(found).toEqual([]);
    // Only drafts are shown on the grid.
    expect(new Set(writingMap(inventory, facts, p, ines, '').spots.map((spot) => spot.state))).toEqual(
      new Set(['draft']),
    );
  });

  it('show what is not a draft with the tools it has as it stands and as a draft, as somebody gets who writes there', () => {
    const q = (id: string, when: object, then: object) => ({ id, when, then });
    const toolbars = {
      ...made.toolbars,
      rules: [
        ...made.toolbars.rules,
        q('up', { states: ['published'] }, { add: ['italic', 'quote'] }),
        q('new', { states: ['draft'] }, { add: ['italic', 'table'] }),
      ],
    };
    const p = { ...made, toolbars };
    const on = (state: string) => {
      const map = writingMap(inventory, facts, p, ines, '', { states: [state], days: [1] });
      return map.cell('plain', 'body').answer?.tools;
    };
    expect(on('published')).toEqual(['bold', 'italic']);
    expect(on('draft')).toEqual(['bold', 'italic', 'table']);
    expect(on('down')).toEqual(['bold']);
    for (const state of PAGE_STATES) {
      const place = { path: ['1'], layout: 'plain', state, author: null };
      expect(on(state), state).toEqual(writingOf(inventory, p, ines, 0).of('page', place, 'body').tools);
    }
  });
});
