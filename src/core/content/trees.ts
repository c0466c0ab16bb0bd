import type { PageState } from '../access';

/** A page as a tree shows it. */
export interface PageInTree {
  id: string;
  parent: string | null;
  title: string;
  state: PageState;
  inNavigation: boolean;
  /** Visible pages directly below. */
  below: number;
}

/** A page as the list shows it, too. */
export interface ListedPage extends PageInTree {
  layout: string;
  language: string;
  author: string | null;
  address: string;
  /** ISO 8601. */
  changedAt: string;
  /** "Visitors see the version from 12 November." */
  visitors: string;
  may: { edit: boolean; create: boolean; arrange: boolean; retire: boolean };
}

/** A node of a page tree as somebody sees it. */
export interface TreeNode<T> {
  page: T;
  below: TreeNode<T>[];
}

/**
 * Joins pages into the trees that can be seen: a page whose parent is left out stands at the top of a tree of its
 * own. Pages must come parents first; brothers keep their order.
 */
export function treesOf<T extends { id: string; parent: string | null }>(pages: readonly T[]): TreeNode<T>[] {
  const nodes = new Map<string, TreeNode<T>>();
  const tops: TreeNode<T>[] = [];
  for (const page of pages) {
    const node: TreeNode<T> = { page, below: [] };
    nodes.set(page.id, node);
    const parent = page.parent === null ? undefined : nodes.get(page.parent);
    (parent?.below ?? tops).push(node);
  }
  return tops;
}
