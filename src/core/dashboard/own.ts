import { z } from 'zod';
import { columnOf, MOST_COLUMNS, SIZES, type Board, type Hold, type PlacedWidget } from './board';

const key = z.string().min(1).max(170);
/** How many widgets of each kind of change are remembered, those that are gone included: the latest. */
const MOST_KEPT = 200;
/** Where somebody put a widget: the column, and what stood above it there, the nearest first. */
const moveSchema = z.strictObject({
  id: key,
  column: z
    .int()
    .min(0)
    .max(MOST_COLUMNS - 1),
  after: z.array(key).max(600),
});

/**
 * What a person changed of the board that was prepared for them; nothing else. What they left alone goes with the plan,
 * what they changed stays as they have it, also while the widget is away.
 */
export const ownSchema = z.strictObject({
  moves: z.array(moveSchema).max(700),
  away: z.array(key).max(MOST_KEPT),
  added: z.array(key).max(MOST_KEPT),
  collapsed: z.array(key).max(MOST_KEPT),
  sizes: z.record(key, z.enum(SIZES)),
  /** What each of them was called when it was changed, for when it is no longer there. */
  names: z.record(key, z.string().max(200)),
  /** What could not be kept and was told already. */
  heard: z.array(z.string().max(200)).max(800),
});
export type Own = z.infer<typeof ownSchema>;

export const asPrepared = (): Own => ({
  moves: [],
  away: [],
  added: [],
  collapsed: [],
  sizes: {},
  names: {},
  heard: [],
});

/** A widget as somebody has it on Today. */
export interface ShownWidget extends PlacedWidget {
  /** Only its heading shows. */
  collapsed: boolean;
}

/** The board as somebody sees it. */
export interface Arranged {
  columns: number;
  /** In their order; of one column from top to bottom. */
  shown: ShownWidget[];
  /** What they put away, and what is offered and not there. */
  away: PlacedWidget[];
  offered: PlacedWidget[];
}

const mayMove = (hold: Hold) => hold !== 'fixed';
const mayPutAway = (hold: Hold) => hold === 'away' || hold === 'offered';

const isShown = (own: Own, { id, hold }: PlacedWidget) =>
  hold === 'offered' ? own.added.includes(id) : !(hold === 'away' && own.away.includes(id));

/**
 * Puts what is fixed where it was prepared: above it stands only what was prepared above it. Everything else keeps its
 * order.
 */
function seated(column: readonly PlacedWidget[], prepared: readonly PlacedWidget[]): PlacedWidget[] {
  const fixed = column.filter(({ hold }) => hold === 'fixed');
  if (fixed.length === 0) return [...column];
  const order = new Map(prepared.map(({ id }, i) => [id, i]));
  const slots: PlacedWidget[][] = [[], ...fixed.map((one) => [one])];
  let passed = 0;
  for (const one of column) {
    if (one.hold === 'fixed') {
      passed += 1;
      continue;
    }
    const at = order.get(one.id);
    const isAbove = (place: PlacedWidget) => at !== undefined && at < (order.get(place.id) ?? -1);
    let slot = passed;
    while (slot < fixed.length && !isAbove(fixed[slot] as PlacedWidget)) slot += 1;
    slots[slot]?.push(one);
  }
  return slots.flat();
}

/**
 * The board as somebody sees it: as it is prepared, with what they changed on top of it. A widget they moved stands
 * below the nearest of those it was put under that is still there. Pure and without memory: when the plan changes and
 * changes back, everything is as it was.
 */
export function arranged(board: Board, own: Own): Arranged {
  const there = board.widgets.filter((one) => isShown(own, one));
  const byId = new Map(there.map((one) => [one.id, one]));
  const moves = own.moves.filter(({ id }) => mayMove(byId.get(id)?.hold ?? 'fixed'));
  const isMoved = new Set(moves.map(({ id }) => id));
  const prepared = Array.from({ length: board.columns }, (_, column) =>
    there.filter((one) => columnOf(board, one) === column),
  );
  const columns = prepared.map((column) => column.filter(({ id }) => !isMoved.has(id)));
  /** In which column each stands by now. */
  const standsIn = new Map(columns.flatMap((column) => column.map(({ id }) => [id, column] as const)));
  for (const move of moves) {
    const widget = byId.get(move.id);
    const column = columns[columnOf(board, move)];
    if (!widget || !column) continue;
    const above = move.after.find((id) => standsIn.get(id) === column);
    standsIn.set(move.id, column);
    column.splice(column.findIndex(({ id }) => id === above) + 1, 0, { ...widget, column: move.column });
  }
  return {
    columns: board.columns,
    shown: columns
      .flatMap((column, i) => seated(column, prepared[i] ?? []))
      .map((one) =>
        // Measured: in half the time that spreading takes, which is most of the whole.
        Object.assign({ collapsed: mayMove(one.hold) && own.collapsed.includes(one.id) }, one, {
          column: columnOf(board, one),
          size: (mayMove(one.hold) ? own.sizes[one.id] : undefined) ?? one.size,
        }),
      ),
    away: board.widgets.filter((one) => one.hold === 'away' && own.away.includes(one.id)),
    offered: board.widgets.filter((one) => one.hold === 'offered' && !own.added.includes(one.id)),
  };
}

/** One change somebody makes to their own Today. */
export const ownChangeSchema = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('move'),
    entry: key,
    column: z
      .int()
      .min(0)
      .max(MOST_COLUMNS - 1),
    index: z.int().min(0).max(100),
  }),
  z.strictObject({ do: z.literal('show'), entry: key, on: z.boolean() }),
  z.strictObject({ do: z.literal('collapse'), entry: key, on: z.boolean() }),
  z.strictObject({ do: z.literal('size'), entry: key, size: z.enum(SIZES) }),
  z.strictObject({ do: z.literal('as-prepared') }),
  /** What could not be kept has been read. */
  z.strictObject({ do: z.literal('heard') }),
]);
export type OwnChange = z.infer<typeof ownChangeSchema>;

const set = (list: readonly string[], id: string, on: boolean) => [
  ...list.filter((one) => one !== id).slice(1 - MOST_KEPT),
  ...(on ? [id] : []),
];

/** Where everything stands now, written down as moves of whatever was moved, each with what stands above it. */
function movesFrom(board: Board, old: Own, now: readonly ShownWidget[], isMoved: ReadonlySet<string>): Own['moves'] {
  const gone = old.moves.filter(({ id }) => !now.some((one) => one.id === id)).slice(-MOST_KEPT);
  const columns = Array.from({ length: board.columns }, (_, column) => now.filter((one) => one.column === column));
  const told = columns.flatMap((column) =>
    column.flatMap((one, i) => {
      if (!isMoved.has(one.id)) return [];
      const before = old.moves.find(({ id }) => id === one.id);
      // The column somebody chose stays written down while the board has fewer.
      const kept = before && columnOf(board, before) === one.column ? before.column : one.column;
      return [
        {
          id: one.id,
          column: kept,
          after: column
            .slice(0, i)
            .map(({ id }) => id)
            .reverse(),
        },
      ];
    }),
  );
  return [...gone, ...told];
}

/**
 * A change made to what somebody has of their own; null where the plan does not leave it free. Made twice it is made
 * once.
 */
export function changedOwn(
  board: Board,
  own: Own,
  change: OwnChange,
  nameOf: (placed: PlacedWidget) => string,
): Own | null {
  if (change.do === 'as-prepared') return { ...asPrepared(), heard: own.heard };
  if (change.do === 'heard') return { ...own, heard: notKept(board, own).map(({ what }) => what) };
  const entry = board.widgets.find(({ id }) => id === change.entry);
  if (!entry || !mayMove(entry.hold)) return null;
  const named = { ...own, names: { ...own.names, [entry.id]: nameOf(entry) } };
  if (change.do === 'collapse') return { ...named, collapsed: set(own.collapsed, entry.id, change.on) };
  if (change.do === 'size') return { ...named, sizes: { ...own.sizes, [entry.id]: change.size } };
  if (change.do === 'show') {
    if (!mayPutAway(entry.hold)) return null;
    const isAdded = change.on && (entry.hold === 'offered' || own.added.includes(entry.id));
    return { ...named, added: set(own.added, entry.id, isAdded), away: set(own.away, entry.id, !change.on) };
  }
  const { shown } = arranged(board, own);
  const moving = shown.find(({ id }) => id === entry.id);
  if (!moving) return null;
  const column = Math.min(change.column, board.columns - 1);
  const rest = shown.filter((one) => one !== moving);
  const there = rest.filter((one) => one.column === column);
  const before = there[change.index];
  const at = before ? rest.indexOf(before) : rest.length;
  const wanted = rest.toSpliced(at, 0, { ...moving, column });
  const isMoved = new Set([...own.moves.map(({ id }) => id), entry.id]);
  const asWanted: Own = { ...named, moves: movesFrom(board, own, wanted, isMoved) };
  // What is fixed may have pushed it down: written down as it is seen.
  return { ...asWanted, moves: movesFrom(board, asWanted, arranged(board, asWanted).shown, isMoved) };
}

/** Something somebody had changed that the plan no longer leaves so. */
export interface NotKept {
  /** Names the case, so that it is told once. */
  what: string;
  says: string;
}

const saysGone = (name: string) => `“${name}” is no longer prepared for you.`;
const saysOffered = (name: string) => `“${name}” is no longer there by itself. You can add it again.`;

/** The widgets somebody changed something of. */
const touchedBy = (own: Own) =>
  new Set([...own.moves.map(({ id }) => id), ...own.away, ...own.added, ...own.collapsed, ...Object.keys(own.sizes)]);

/** What stands on a board by itself, and what each is called. */
export const standsByItself = (board: Board, nameOf: (placed: PlacedWidget) => string): Record<string, string> =>
  Object.fromEntries(board.widgets.filter(({ hold }) => hold !== 'offered').map((one) => [one.id, nameOf(one)]));

/**
 * What stood by itself when somebody last saw their Today, no longer does, and was left alone by them: of the rest
 * `notKept` tells. A sentence each.
 */
export function gone(board: Board, own: Own, stood: Readonly<Record<string, string>>): string[] {
  const touched = touchedBy(own);
  const known = new Map(board.widgets.map(({ id, hold }) => [id, hold]));
  return Object.entries(stood).flatMap(([id, name]) => {
    const hold = known.get(id);
    if (touched.has(id) || (hold !== undefined && hold !== 'offered')) return [];
    return [hold === undefined ? saysGone(name) : saysOffered(name)];
  });
}

/** What a plan does not leave of somebody's own arrangement, a sentence each. */
export function notKept(board: Board, own: Own): NotKept[] {
  const known = new Map(board.widgets.map((one) => [one.id, one]));
  return [...touchedBy(own)].flatMap((id): NotKept[] => {
    const now = known.get(id);
    const name = own.names[id] ?? id;
    if (!now) return own.away.includes(id) ? [] : [{ what: `${id} gone`, says: saysGone(name) }];
    if (now.hold === 'fixed')
      return own.away.includes(id)
        ? [{ what: `${id} back`, says: `“${name}” is back: from now on it stays on everybody’s Today.` }]
        : [{ what: `${id} fixed`, says: `“${name}” stands where it was prepared: from now on it stays there.` }];
    if (now.hold === 'move' && own.away.includes(id))
      return [{ what: `${id} back`, says: `“${name}” is back: it may be moved, but no longer put away.` }];
    if (now.hold === 'offered' && !own.added.includes(id) && !own.away.includes(id))
      return [{ what: `${id} offered`, says: saysOffered(name) }];
    return [];
  });
}

/** What of it was not told yet. */
export const untold = (board: Board, own: Own): NotKept[] =>
  notKept(board, own).filter(({ what }) => !own.heard.includes(what));
