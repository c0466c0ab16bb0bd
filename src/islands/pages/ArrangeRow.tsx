import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import { Icon } from '../kit/Icon';
import type { TreeRow, Zone } from './model';
import { indent, rowIcon, StateMarks, Toggle } from './TreeRows';

/** A row of the big tree: it can be dragged by its handle and dropped on. */
export function ArrangeRow({
  row,
  busy,
  zone,
  chosen,
  onToggle,
  onChoose,
  onKeyMove,
  menu,
}: {
  row: TreeRow;
  busy: boolean;
  /** Where what is dragged would land on this row. */ zone: Zone | null;
  chosen: boolean | null;
  onToggle: (id: string) => void;
  onChoose: (id: string, on: boolean) => void;
  onKeyMove: (id: string, key: string) => void;
  menu: ReactNode;
}) {
  const { page } = row;
  const drag = useDraggable({ id: page.id, disabled: !page.may.arrange || row.page.parent === null });
  const drop = useDroppable({ id: page.id });
  const hint =
    zone === 'inside'
      ? 'bg-pine-soft shadow-[inset_0_0_0_2px_var(--color-pine)]'
      : zone === 'before'
        ? 'shadow-[inset_0_2px_0_var(--color-pine)]'
        : zone === 'after'
          ? 'shadow-[inset_0_-2px_0_var(--color-pine)]'
          : '';
  return (
    <div
      ref={drop.setNodeRef}
      className={`flex min-h-[40px] items-center gap-1 rounded-s pr-1 hover:bg-pine-wash ${hint} ${drag.isDragging ? 'opacity-50' : ''}`}
      style={indent(row.level, false)}
    >
      {chosen === null ? (
        <button
          ref={drag.setNodeRef}
          type="button"
          {...drag.listeners}
          aria-hidden="true"
          tabIndex={-1}
          className={`flex h-7 w-6 shrink-0 touch-none items-center justify-center text-ink-3 max-sm:hidden ${page.may.arrange && page.parent !== null ? 'cursor-grab' : 'invisible'}`}
        >
          <Icon name="grip" size={16} />
        </button>
      ) : (
        <input
          type="checkbox"
          className="mx-1 h-5 w-5 shrink-0"
          aria-label={`Choose ${page.title}`}
          checked={chosen}
          onChange={(event) => onChoose(page.id, event.target.checked)}
        />
      )}
      <Toggle row={row} busy={busy} onToggle={onToggle} />
      <a
        href={`/room/pages/${page.id}`}
        data-title={page.id}
        className="flex min-w-0 flex-1 items-center gap-2 py-1.5 text-ink no-underline"
        aria-keyshortcuts={page.may.arrange ? 'Alt+ArrowUp Alt+ArrowDown Alt+ArrowLeft Alt+ArrowRight' : undefined}
        onKeyDown={(event) => {
          if (!event.altKey || !event.key.startsWith('Arrow') || !page.may.arrange) return;
          event.preventDefault();
          onKeyMove(page.id, event.key);
        }}
      >
        <Icon name={rowIcon(row)} size={17} />
        <span className="clip" dir="auto">
          {page.title}
        </span>
      </a>
      <span className="hidden text-sm text-ink-2 lg:inline">{page.visitors}</span>
      <StateMarks row={row} />
      {menu}
    </div>
  );
}
