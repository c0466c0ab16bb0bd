import type { PageState } from '@/core/access';
import type { ListedPage, PageInTree } from '@/core/content';
import { NO_FILTER, type PageFilter } from '@/core/lists';
import { fold } from '@/core/words';

export const STATES: Record<
  PageState,
  { name: string; /** Where there is little room. */ short: string; look: string }
> = {
  draft: { name: 'Draft', short: 'Draft', look: 'pill-sun' },
  waiting: { name: 'Waits for a second look', short: 'Waits', look: 'pill-sky' },
  published: { name: 'Published', short: 'Published', look: 'pill-pine' },
  down: { name: 'Taken down', short: 'Down', look: 'pill-brick' },
};

/** The pages known so far, as they lie; branches not fetched yet are only counted (`below`). */
export interface KnownTree<P extends PageInTree = ListedPage> {
  pages: ReadonlyMap<string, P>;
  tops: readonly string[];
  children: ReadonlyMap<string, readonly string[]>;
}

/** Joins pages into a tree: a page whose parent is left out stands at the top. Neighbours keep their order. */
export function treeOf<P extends PageInTree>(rows: readonly P[]): KnownTree<P> {
  const pages = new Map(rows.map((row) => [row.id, row]));
  const tops: string[] = [];
  const children = new Map<string, string[]>();
  for (const row of rows) {
    const list = row.parent === null || !pages.has(row.parent) ? tops : children.get(row.parent);
    if (list) list.push(row.id);
    else if (row.parent !== null) children.set(row.parent, [row.id]);
  }
  return { pages, tops, children };
}

/** The tree with a branch put in place, as it was fetched anew. */
export function withBranch<P extends PageInTree>(tree: KnownTree<P>, parent: string, rows: readonly P[]): KnownTree<P> {
  return {
    ...tree,
    pages: new Map([...tree.pages, ...rows.map((row) => [row.id, row] as const)]),
    children: new Map([...tree.children, [parent, rows.map((row) => row.id)]]),
  };
}

export interface TreeRow<P extends PageInTree = ListedPage> {
  page: P;
  level: number;
  open: boolean;
  at: number;
  of: number;
}

/**
 * The rows to be shown: the tops and what lies in open branches, with level (from 1) and place among neighbours (from
 * 1).
 */
export function rowsOf<P extends PageInTree>(tree: KnownTree<P>, open: ReadonlySet<string>): TreeRow<P>[] {
  const rows: TreeRow<P>[] = [];
  const visit = (ids: readonly string[], level: number) => {
    ids.forEach((id, i) => {
      const page = tree.pages.get(id);
      if (!page) return;
      const isOpen = open.has(id) && page.below > 0;
      rows.push({ page, level, open: isOpen, at: i + 1, of: ids.length });
      if (isOpen) visit(tree.children.get(id) ?? [], level + 1);
    });
  };
  visit(tree.tops, 1);
  return rows;
}

/** Pages whose title holds what is typed, and all above them. */
export function matching<P extends PageInTree>(rows: readonly P[], typed: string): P[] {
  const wanted = fold(typed.trim());
  if (!wanted) return [...rows];
  const byId = new Map(rows.map((row) => [row.id, row]));
  const keep = new Set<string>();
  for (const row of rows)
    if (fold(row.title).includes(wanted))
      for (
        let at: P | undefined = row;
        at && !keep.has(at.id);
        at = at.parent === null ? undefined : byId.get(at.parent)
      )
        keep.add(at.id);
  return rows.filter((row) => keep.has(row.id));
}

export interface DropPlace {
  parent: string;
  index: number;
}
export type Zone = 'before' | 'inside' | 'after';

/** Where a page dropped on a row would lie; null where it cannot: on itself, below itself, beside the top. */
export function placeOnDrop(tree: KnownTree, dragged: string, over: string, zone: Zone): DropPlace | null {
  for (let at: string | null | undefined = over; at; at = tree.pages.get(at)?.parent) if (at === dragged) return null;
  if (zone === 'inside')
    return { parent: over, index: (tree.children.get(over) ?? []).filter((id) => id !== dragged).length };
  const parent = tree.pages.get(over)?.parent ?? null;
  if (parent === null || !tree.pages.has(parent)) return null;
  const order = (tree.children.get(parent) ?? []).filter((id) => id !== dragged);
  return { parent, index: order.indexOf(over) + (zone === 'after' ? 1 : 0) };
}

/**
 * Where a key moves a page: up and down among its neighbours, left out of its branch, right below the one before it.
 */
export function placeByKey(tree: KnownTree, id: string, key: string): DropPlace | null {
  const parent = tree.pages.get(id)?.parent ?? null;
  if (parent === null || !tree.pages.has(parent)) return null;
  const order = tree.children.get(parent) ?? [];
  const at = order.indexOf(id);
  if (key === 'ArrowUp') return at > 0 ? { parent, index: at - 1 } : null;
  if (key === 'ArrowDown') return at < order.length - 1 ? { parent, index: at + 1 } : null;
  if (key === 'ArrowRight') {
    const above = order[at - 1];
    return above === undefined ? null : { parent: above, index: 100_000 };
  }
  const up = tree.pages.get(parent)?.parent ?? null;
  return key === 'ArrowLeft' && up !== null && tree.pages.has(up)
    ? { parent: up, index: (tree.children.get(up) ?? []).indexOf(parent) + 1 }
    : null;
}

export const isFiltered = (filter: PageFilter): boolean =>
  (['q', 'layout', 'state', 'navigation', 'links', 'language', 'author', 'days'] as const).some(
    (key) => filter[key] !== NO_FILTER[key],
  );
export const queryOf = (filter: PageFilter): string =>
  new URLSearchParams(
    Object.entries(filter)
      .filter(([key, value]) => value !== NO_FILTER[key as keyof PageFilter])
      .map(([key, value]) => [key, String(value)]),
  ).toString();
