import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyOperation, patchOf, readOperation, readPatch, readPlan } from '@/core/plan';
import { inventory } from '@/office';
import { demo, operation, walked } from './operations';

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
    // Before headings and links were tools by level and kind.
    const of = (tools: string[]) => ({ ...role, toolbar: { tools, modes: ['visual'] } });
    const [old, parted] = [
      of(['bold', 'link', 'heading', 'table']),
      of([
        'bold',
        ...['page', 'file', 'web', 'mail', 'phone'].map((kind) => `link.${kind}`),
        'heading.2',
        'heading.3',
        'table',
      ]),
    ];
    expect(readPlan({ ...demo, apart: [], roles: [demo.roles[0], old] })).toEqual({
      ...demo,
      apart: [],
      roles: [demo.roles[0], parted],
    });
    expect(readPatch(old)).toEqual({ roles: { [role?.id ?? '']: parted } });
    expect(readOperation({ do: 'set-tool', role: 'x', tool: 'link', on: false })).toMatchObject({ tool: 'link.page' });
  });
  it('is refused with its place where it is none', () => {
    const [one, ...others] = demo.roles;
    expect(() => readPlan({ ...demo, roles: [{ ...one, toolbar: undefined }, ...others] })).toThrow(
      /a stored plan cannot be read: roles\.0\.toolbar/,
    );
    expect(() => readPlan(null)).toThrow(RangeError);
    expect(() => readPatch({ roles: {}, moon: 1 })).toThrow(/a stored patch cannot be read/);
    expect(() => readOperation({ do: 'fly' })).toThrow(/a stored operation cannot be read: do/);
  });
});
