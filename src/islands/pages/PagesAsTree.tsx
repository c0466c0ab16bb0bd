import type { ListedPage } from '@/core/content';
import { DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { useState, type ReactNode } from 'react';
import { dragWords } from '../kit/drag';
import { Empty } from '../kit/parts';
import { collide, zoneOf } from './dropZones';
import { placeByKey, placeOnDrop, type DropPlace, type Zone } from './model';
import { ArrangeRow } from './ArrangeRow';
import { TreeRows } from './TreeRows';
import type { useTree } from './useTree';

/** The pages as a tree, to be opened, found in, and put elsewhere by pointer or keys. */
export function PagesAsTree({
  tree,
  chosen,
  onChoose,
  onMove,
  menu,
}: {
  tree: ReturnType<typeof useTree<ListedPage>>;
  /** Those chosen among several; null while none are chosen. */
  chosen: ReadonlyMap<string, string> | null;
  onChoose: (page: ListedPage, on: boolean) => void;
  /** To a place; null where it fits none. */
  onMove: (id: string, to: DropPlace | null) => void;
  menu: (page: ListedPage) => ReactNode;
}) {
  const [over, setOver] = useState<{ id: string; zone: Zone; fits: boolean } | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  return (
    <>
      <p role="status" className="sr-only">
        {tree.searching && !tree.waiting && `${tree.rows.length} ${tree.rows.length === 1 ? 'page' : 'pages'} shown`}
      </p>
      {tree.failed && <p className="note note-brick mb-3">{tree.failed}</p>}
      <nav aria-label="Your part of the site" data-anchor="pages.tree.tree" className="relative">
        <DndContext
          sensors={sensors}
          accessibility={dragWords((id) => tree.tree.pages.get(id)?.title ?? 'The page')}
          collisionDetection={collide}
          onDragMove={(event) =>
            setOver(
              event.over
                ? {
                    id: String(event.over.id),
                    zone: zoneOf(event),
                    fits:
                      placeOnDrop(tree.tree, String(event.active.id), String(event.over.id), zoneOf(event)) !== null,
                  }
                : null,
            )
          }
          onDragEnd={(event) => {
            setOver(null);
            if (event.over)
              onMove(
                String(event.active.id),
                placeOnDrop(tree.tree, String(event.active.id), String(event.over.id), zoneOf(event)),
              );
          }}
          onDragCancel={() => setOver(null)}
        >
          <TreeRows rows={tree.rows} onToggle={tree.toggle}>
            {(row) => (
              <ArrangeRow
                row={row}
                busy={tree.loading.has(row.page.id)}
                zone={over?.id === row.page.id && over.fits ? over.zone : null}
                chosen={chosen === null ? null : chosen.has(row.page.id)}
                onToggle={tree.toggle}
                onChoose={(_, on) => onChoose(row.page, on)}
                onKeyMove={(id, key) => onMove(id, placeByKey(tree.tree, id, key))}
                menu={menu(row.page)}
              />
            )}
          </TreeRows>
        </DndContext>
        {tree.rows.some((row) => row.page.may.arrange && row.page.parent !== null) && (
          <p className="hint mt-2 max-sm:hidden">
            Move a page by its handle, by “Move…” behind its three dots, or from its title with Alt and the arrow keys.
          </p>
        )}
        {tree.rows.length === 0 && tree.searching && !tree.waiting && (
          <Empty icon="search" title={`No page speaks of “${tree.typed.trim()}”`}>
            Try fewer letters. Only pages of your part of the site are listed.
          </Empty>
        )}
        {tree.rows.length === 0 && !tree.searching && (
          <Empty icon="files" title="No pages are in your part of the site">
            Ask the keyholder which pages you look after.
          </Empty>
        )}
      </nav>
    </>
  );
}
