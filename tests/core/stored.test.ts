import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyOperation, patchOf, readOperation, readPatch, readPlan } from '@/core/plan';
import { boardOf } from '@/core/dashboard';
import { writingOf } from '@/core/room';
import { demo, operation, walked } from './operations';
import stored from './plan-before-toolbars.json';
import { person, PLACES } from './plans';
import { inventory } from '../inventory';

const asStored = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

describe('what is stored of plans', () => {
  it('is read as it was written, in the form of today', () => {
    fc.assert(
      fc.property(fc.array(operation, { maxLength: 4 }), operation, (first, op) => {
        const before = walked(demo, first);
        expect(readPlan(asStored(before))).toEqual(before);
        expect(readOperation(asStored(op))).toEqual(op);
        const applied = applyOperation(inventory, before, op);
        if (!applied.ok) return;
        const patch = patchOf(applied.plan, before);
        expect(readPatch(asStored(patch))).toEqual(patch);
      }),
      { seed: 20261127, numRuns: 150 },
    );
  });
  it('is brought up from every earlier form', () => {
    // Before roles could be kept apart, and before a change could touch more than one role.
    const { apart: _, ...first } = demo;
    expect(readPlan(first)).toEqual({ ...demo, apart: [] });
    expect(readOperation({ do: 'replace-plan', plan: first })).toEqual({
      do: 'replace-plan',
      plan: { ...demo, apart: [] },
    });
    const role = demo.roles[1];
    expect(readPatch(role)).toEqual({ roles: { [role?.id ?? '']: role } });
    // Before toolbars went by rules, and before headings and links were tools by level and kind.
    const of = (tools: string[]) => ({ ...role, toolbar: { tools, modes: ['visual', 'code'] } });
    const old = of(['bold', 'link', 'heading', 'table']);
    const links = ['page', 'file', 'web', 'mail', 'phone'].map((kind) => `link.${kind}`);
    const set = {
      id: role?.id,
      name: role?.name,
      add: ['bold', ...links, 'heading.2', 'heading.3', 'table', 'paste.form', 'mode.code'],
      take: [],
    };
    const rule = { id: role?.id, when: { roles: [role?.id] }, then: { use: role?.id } };
    const { toolbars: __, screens: ___, words: ____, ...before } = demo;
    expect(readPlan({ ...before, apart: [], roles: [demo.roles[0], old] })).toEqual({
      ...before,
      apart: [],
      roles: [demo.roles[0], role],
      // Before edit screens were prepared at all.
      screens: [],
      words: [],
      toolbars: { sets: [set], rules: [rule] },
    });
    const id = role?.id ?? '';
    expect(readPatch(old)).toEqual({
      roles: { [id]: role },
      toolbars: { entries: { [`set ${id}`]: set, [`rule ${id}`]: rule } },
    });
    expect(readOperation({ do: 'set-tool', role: 'x', tool: 'link', on: false })).toMatchObject({ tool: 'link.page' });
    expect(readOperation({ do: 'set-mode', role: 'x', mode: 'code', on: false })).toEqual({
      do: 'set-tool',
      role: 'x',
      tool: 'mode.code',
      on: false,
    });
  });
  it('has widgets one by one that stood in columns by name before, and what is done with them likewise', () => {
    const role = {
      ...demo.roles[1],
      dashboard: { columns: [['pages.unfinished', 'notices.now'], [], ['visits.week']] },
    };
    const { id = '' } = role;
    const now = boardOf(['pages.unfinished', 'notices.now'], [], ['visits.week']);
    expect(readPlan({ ...demo, roles: [demo.roles[0], role, ...demo.roles.slice(2)] }).roles[1]?.dashboard).toEqual(
      now,
    );
    expect(readPatch({ roles: { [id]: role } }).roles[id]?.dashboard).toEqual(now);
    expect(readOperation({ do: 'place-widget', role: id, widget: 'visits.week', column: 0, index: 1 })).toEqual({
      do: 'place-widget',
      role: id,
      widget: 'visits.week',
      entry: 'visits.week',
      column: 0,
      index: 1,
    });
    expect(readOperation({ do: 'remove-widget', role: id, widget: 'visits.week' })).toMatchObject({
      entry: 'visits.week',
    });
    // Every board of a plan stored then, entry by entry in the columns it had.
    for (const { id: of, dashboard } of stored.roles)
      expect(readPlan(stored).roles.find((one) => one.id === of)?.dashboard).toEqual(boardOf(...dashboard.columns));
  });
  it('begins nobody with dates in a language that browsers cannot tell', () => {
    for (const dates of ['cy', 'gd']) {
      const reading = { start: { dates, text: 112 }, fixed: ['text', 'dates'] };
      const now = { start: { text: 112 }, fixed: ['text', 'dates'] };
      expect(readPlan({ ...demo, reading })).toEqual({ ...demo, reading: now });
      expect(readPatch({ roles: {}, reading })).toEqual({ roles: {}, reading: now });
      expect(readOperation({ do: 'set-reading', reading })).toEqual({ do: 'set-reading', reading: now });
    }
  });
  it('gives every role on every page the tools it had before toolbars went by rules', () => {
    const plan = readPlan(stored);
    for (const { id, toolbar } of stored.roles)
      for (const place of Object.values(PLACES))
        for (const field of ['body', 'intro', 'pieces']) {
          const had = new Set([...toolbar.tools, 'paste.form', ...toolbar.modes.map((mode) => `mode.${mode}`)]);
          const { of } = writingOf(inventory, plan, person('ines', { role: id }), 0);
          expect(of('page', place, field), `${id} on ${place.path.join('/')}`).toEqual({
            tools: [...inventory.tools.keys()].filter((tool) => had.has(tool)),
            keep: {},
            groups: [],
          });
        }
  });
  it('is refused with its place where it is none', () => {
    const [one, ...others] = demo.roles;
    expect(() => readPlan({ ...demo, roles: [{ ...one, doors: undefined }, ...others] })).toThrow(
      /a stored plan cannot be read: roles\.0\.doors/,
    );
    expect(() => readPlan(null)).toThrow(RangeError);
    expect(() => readPatch({ roles: {}, moon: 1 })).toThrow(/a stored patch cannot be read/);
    expect(() => readOperation({ do: 'fly' })).toThrow(/a stored operation cannot be read: do/);
  });
});
