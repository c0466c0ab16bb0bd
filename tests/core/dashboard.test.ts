import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  arranged,
  asPrepared,
  boardOf,
  boardSchema,
  cellsOf,
  changedOwn,
  HOLDS,
  joinBoards,
  ownSchema,
  SIZES,
  gone,
  standsByItself,
  untold,
  type Board,
  type Own,
  type OwnChange,
  type PlacedWidget,
} from '@/core/dashboard';

const SEED = 20261128;
const NAMES = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
const nameOf = ({ widget }: PlacedWidget) => widget.toUpperCase();

const board: fc.Arbitrary<Board> = fc
  .record({
    columns: fc.integer({ min: 1, max: 4 }),
    widgets: fc.uniqueArray(
      fc.record({
        id: fc.constantFrom(...NAMES),
        column: fc.nat(3),
        hold: fc.constantFrom(...HOLDS),
        size: fc.constantFrom(...SIZES),
      }),
      { selector: ({ id }) => id },
    ),
  })
  .map(({ columns, widgets }) => ({ columns, widgets: widgets.map((one) => ({ ...one, widget: one.id })) }));

const entry = fc.constantFrom(...NAMES);
const change: fc.Arbitrary<OwnChange> = fc.oneof(
  fc.record({ do: fc.constant('move' as const), entry, column: fc.nat(3), index: fc.nat(5) }),
  fc.record({ do: fc.constant('show' as const), entry, on: fc.boolean() }),
  fc.record({ do: fc.constant('collapse' as const), entry, on: fc.boolean() }),
  fc.record({ do: fc.constant('size' as const), entry, size: fc.constantFrom(...SIZES) }),
);
const changes = fc.array(change, { maxLength: 12 });

const after = (of: Board, list: readonly OwnChange[], own: Own = asPrepared()) =>
  list.reduce((now, one) => changedOwn(of, now, one, nameOf) ?? now, own);
const ids = (of: Board, own: Own) => arranged(of, own).shown.map(({ id, column }) => `${id} ${column}`);

describe('a board in a grid', () => {
  it('shows every widget once, in order, and lets no two of them lie over one another', () => {
    fc.assert(
      fc.property(board, ({ columns, widgets }) => {
        const cells = cellsOf(columns, widgets);
        const drawn = cells.flatMap((cell) => cell.widgets.map(({ id }) => id));
        expect([...drawn].sort()).toEqual(widgets.map(({ id }) => id).sort());
        const taken = new Set<string>();
        for (const cell of cells) {
          expect(cell.column + cell.span).toBeLessThanOrEqual(columns);
          expect(cell.rows).toBeGreaterThan(0);
          for (let row = cell.row; row < cell.row + cell.rows; row++)
            for (let column = cell.column; column < cell.column + cell.span; column++) {
              expect(taken.has(`${row} ${column}`)).toBe(false);
              taken.add(`${row} ${column}`);
            }
        }
        // In the column a narrow widget stands in, what comes later stands further down.
        for (let column = 0; column < columns; column++) {
          const downwards = cells
            .filter((cell) => cell.column <= column && column < cell.column + cell.span)
            .sort((a, b) => a.row - b.row)
            .flatMap((cell) => cell.widgets.map(({ id }) => widgets.findIndex((one) => one.id === id)));
          expect(downwards).toEqual([...downwards].sort((a, b) => a - b));
        }
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
  it('stacks what is narrow, and begins anew below what goes over several columns', () => {
    const { widgets } = boardOf(['a', { widget: 'full', size: 'full' }, 'b'], ['c', 'd']);
    const order = ['a', 'c', 'd', 'full', 'b'].map((id) => widgets.find((one) => one.id === id) as PlacedWidget);
    expect(
      cellsOf(2, order).map(({ row, column, span, rows, widgets: w }) => [
        row,
        column,
        span,
        rows,
        w.map(({ id }) => id),
      ]),
    ).toEqual([
      [0, 0, 1, 1, ['a']],
      [0, 1, 1, 1, ['c', 'd']],
      [1, 0, 2, 1, ['full']],
      [2, 0, 1, 1, ['b']],
    ]);
  });
});

describe('the boards of several roles', () => {
  it('stand behind one another, each widget once, as firmly as the firmest has it', () => {
    const joined = joinBoards([
      { role: 'desk', board: boardOf(['a', 'b'], ['c']) },
      {
        role: 'press',
        board: boardOf(
          [
            { widget: 'c', hold: 'fixed' },
            { widget: 'a', settings: { most: 3 } },
          ],
          [],
          ['d'],
        ),
      },
    ]);
    expect(joined.columns).toBe(3);
    expect(joined.widgets.map(({ id, column, hold }) => [id, column, hold])).toEqual([
      ['a', 0, 'away'],
      ['b', 0, 'away'],
      ['c', 1, 'fixed'],
      ['a@press', 0, 'away'],
      ['d', 2, 'away'],
    ]);
  });
  it('say nothing twice, whatever they are', () => {
    fc.assert(
      fc.property(board, board, (one, two) => {
        const joined = joinBoards([
          { role: 'one', board: one },
          { role: 'two', board: two },
        ]);
        expect(new Set(joined.widgets.map(({ id }) => id)).size).toBe(joined.widgets.length);
        for (const { widget } of [...one.widgets, ...two.widgets])
          expect(joined.widgets.some((placed) => placed.widget === widget)).toBe(true);
      }),
      { seed: SEED, numRuns: 300 },
    );
  });
});

describe('what somebody arranged for themselves', () => {
  it('doubles nothing, loses nothing, and can be stored', () => {
    fc.assert(
      fc.property(board, changes, (of, list) => {
        const own = after(of, list);
        const { shown, away, offered } = arranged(of, own);
        expect([...shown, ...away, ...offered].map(({ id }) => id).sort()).toEqual(
          of.widgets.map(({ id }) => id).sort(),
        );
        expect(ownSchema.parse(JSON.parse(JSON.stringify(own)))).toEqual(own);
        expect(boardSchema.safeParse(of).success).toBe(true);
      }),
      { seed: SEED, numRuns: 1000 },
    );
  });
  it('never moves what is fixed: it is in its column, with nothing above it that was not prepared above it', () => {
    fc.assert(
      fc.property(board, changes, board, (of, list, later) => {
        for (const now of [of, later]) {
          const own = after(of, list);
          const { shown } = arranged(now, own);
          const fixed = now.widgets.filter(({ hold }) => hold === 'fixed');
          for (const one of fixed) {
            const column = Math.min(one.column, now.columns - 1);
            const there = shown.filter((other) => other.column === column).map(({ id }) => id);
            expect(there).toContain(one.id);
            const above = now.widgets.slice(0, now.widgets.indexOf(one)).map(({ id }) => id);
            for (const id of there.slice(0, there.indexOf(one.id))) expect(above).toContain(id);
            expect(shown.find(({ id }) => id === one.id)).toMatchObject({ size: one.size, collapsed: false });
          }
        }
      }),
      { seed: SEED, numRuns: 1000 },
    );
  });
  it('is what a plain list of columns would be, moved about one by one, where nothing is fixed', () => {
    fc.assert(
      fc.property(
        board,
        fc.array(
          change.filter((one) => one.do === 'move'),
          { maxLength: 10 },
        ),
        (given, list) => {
          const of = { ...given, widgets: given.widgets.map((one) => ({ ...one, hold: 'move' as const })) };
          const columns = Array.from({ length: of.columns }, (_, i) =>
            of.widgets.filter((one) => Math.min(one.column, of.columns - 1) === i).map(({ id }) => id),
          );
          for (const one of list) {
            if (one.do !== 'move' || !columns.some((column) => column.includes(one.entry))) continue;
            for (const column of columns) if (column.includes(one.entry)) column.splice(column.indexOf(one.entry), 1);
            const to = columns[Math.min(one.column, of.columns - 1)];
            to?.splice(Math.min(one.index, to.length), 0, one.entry);
          }
          const { shown } = arranged(of, after(of, list));
          expect(columns).toEqual(
            Array.from({ length: of.columns }, (_, i) =>
              shown.filter(({ column }) => column === i).map(({ id }) => id),
            ),
          );
        },
      ),
      { seed: SEED, numRuns: 1000 },
    );
  });
  it('is the same when a change is made twice, and when the plan changes and changes back', () => {
    fc.assert(
      fc.property(board, changes, change, board, (of, list, last, meanwhile) => {
        const own = after(of, list);
        const once = after(of, [last], own);
        expect(after(of, [last], once)).toEqual(once);
        // Nothing of it is touched by looking at it through another plan.
        const kept = JSON.stringify(own);
        arranged(meanwhile, own);
        expect(JSON.stringify(own)).toBe(kept);
        expect(ids(of, own)).toEqual(ids(of, JSON.parse(kept) as Own));
      }),
      { seed: SEED, numRuns: 600 },
    );
  });
  it('loses nothing to fewer columns, also when something is moved meanwhile', () => {
    const three = boardOf(['a'], ['b'], ['c', 'd']);
    const own = after(three, [{ do: 'move', entry: 'a', column: 2, index: 1 }]);
    expect(ids(three, own)).toEqual(['b 1', 'c 2', 'a 2', 'd 2']);
    const two = { ...three, columns: 2 };
    expect(ids(two, own)).toEqual(['b 1', 'c 1', 'a 1', 'd 1']);
    const meanwhile = after(two, [{ do: 'move', entry: 'b', column: 0, index: 0 }], own);
    expect(ids(three, meanwhile)).toEqual(['b 0', 'c 2', 'a 2', 'd 2']);
  });
  it('has what is new where it was prepared, and leaves the rest as it was', () => {
    const before = boardOf(['a', 'b'], ['c']);
    const own = after(before, [
      { do: 'move', entry: 'c', column: 0, index: 0 },
      { do: 'show', entry: 'b', on: false },
    ]);
    const now = boardOf(['a', 'new', 'b'], ['c', 'also']);
    expect(ids(now, own)).toEqual(['c 0', 'a 0', 'new 0', 'also 1']);
    expect(arranged(now, own).away.map(({ id }) => id)).toEqual(['b']);
  });
  it('tells once what a plan does not leave of it', () => {
    const before = boardOf(['a', 'b', 'c', { widget: 'd', hold: 'offered' }]);
    const own = after(before, [
      { do: 'show', entry: 'a', on: false },
      { do: 'move', entry: 'b', column: 0, index: 2 },
      { do: 'collapse', entry: 'c', on: true },
      { do: 'show', entry: 'd', on: true },
    ]);
    expect(untold(before, own)).toEqual([]);
    const now = boardOf([
      { widget: 'a', hold: 'move' },
      { widget: 'b', hold: 'fixed' },
    ]);
    expect(untold(now, own).map(({ says }) => says)).toEqual([
      '“B” stands where it was prepared: from now on it stays there.',
      '“A” is back: it may be moved, but no longer put away.',
      '“D” is no longer prepared for you.',
      '“C” is no longer prepared for you.',
    ]);
    const heard = after(now, [{ do: 'heard' }], own);
    expect(untold(now, heard)).toEqual([]);
    expect(after(now, [{ do: 'heard' }], heard)).toEqual(heard);
    // Told once more only when it is so again after it was otherwise and was heard then.
    expect(untold(now, after(before, [{ do: 'heard' }], heard))).toHaveLength(4);
  });
  it('tells of what stood there by itself and left, whoever arranged nothing of it, and of nothing twice', () => {
    const before = boardOf(['a', 'b', 'c', { widget: 'd', hold: 'offered' }]);
    const stood = standsByItself(before, nameOf);
    expect(stood).toEqual({ a: 'A', b: 'B', c: 'C' });
    expect(gone(before, asPrepared(), stood)).toEqual([]);
    const now = boardOf(['a', { widget: 'b', hold: 'offered' }, 'new']);
    const says = ['“B” is no longer there by itself. You can add it again.', '“C” is no longer prepared for you.'];
    expect(gone(now, asPrepared(), stood)).toEqual(says);
    // Put away by themselves, or moved: theirs, and told of as that, where there is something to tell.
    const own = after(before, [
      { do: 'show', entry: 'b', on: false },
      { do: 'move', entry: 'c', column: 0, index: 0 },
    ]);
    expect(gone(now, own, stood)).toEqual([]);
    expect(untold(now, own).map((one) => one.says)).toEqual([says[1]]);
    fc.assert(
      fc.property(
        fc.subarray(['a', 'b', 'c', 'd']),
        fc.subarray(['a', 'b', 'c', 'd', 'e']),
        fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { maxLength: 4 }),
        (first, second, moved) => {
          const [was, is] = [boardOf(first), boardOf(second)];
          const theirs = moved
            .filter((entry) => first.includes(entry))
            .reduce((o, entry) => after(was, [{ do: 'collapse', entry, on: true }], o), asPrepared());
          const told = [...gone(is, theirs, standsByItself(was, nameOf)), ...untold(is, theirs).map((one) => one.says)];
          const left = first
            .filter((id) => !second.includes(id))
            .map((id) => `“${id.toUpperCase()}” is no longer prepared for you.`);
          expect(told.toSorted()).toEqual(left.toSorted());
        },
      ),
    );
  });
  it('refuses what the plan does not leave free', () => {
    const of = boardOf([{ widget: 'a', hold: 'fixed' }, { widget: 'b', hold: 'move' }, 'c']);
    const refused = (one: OwnChange) => changedOwn(of, asPrepared(), one, nameOf);
    expect(refused({ do: 'move', entry: 'a', column: 0, index: 1 })).toBeNull();
    expect(refused({ do: 'collapse', entry: 'a', on: true })).toBeNull();
    expect(refused({ do: 'show', entry: 'b', on: false })).toBeNull();
    expect(refused({ do: 'size', entry: 'nothing', size: 'full' })).toBeNull();
    expect(refused({ do: 'show', entry: 'c', on: false })).not.toBeNull();
  });
});
