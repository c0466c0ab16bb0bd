import type { PageInTree } from '@/core/content';
import { Safe } from '../kit/parts';
import { NarrowRow, TreeRows } from './TreeRows';
import { useTree } from './useTree';

/** The pages somebody may see, beside the one that is open. */
export function PageTree({ initial, current }: { initial: { pages: PageInTree[] }; current: string }) {
  return (
    <Safe>
      <Narrow initial={initial} current={current} />
    </Safe>
  );
}

function Narrow({ initial, current }: { initial: { pages: PageInTree[] }; current: string }) {
  const tree = useTree(initial);
  return (
    <nav aria-label="Your part of the site" data-anchor="pages.tree.tree">
      <TreeRows rows={tree.rows} onToggle={tree.toggle}>
        {(row) => <NarrowRow row={row} busy={tree.loading.has(row.page.id)} current={current} onToggle={tree.toggle} />}
      </TreeRows>
    </nav>
  );
}
