import type { PageInTree } from '@/core/content';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Icon } from '../kit/Icon';
import { useFocusLater } from '../kit/parts';
import { STATES, type TreeRow } from './model';

const ROW_PX = 41;

/**
 * The rows of a tree, only those near the window drawn. Arrow keys go from title to title, left and right shut and
 * open.
 */
export function TreeRows<P extends PageInTree>({
  rows,
  onToggle,
  children,
}: {
  rows: readonly TreeRow<P>[];
  onToggle: (id: string) => void;
  children: (row: TreeRow<P>) => ReactNode;
}) {
  const list = useRef<HTMLUListElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), []);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_PX,
    overscan: 12,
    scrollMargin: top,
    initialRect: { width: 1280, height: 900 },
    getItemKey: (i) => rows[i]?.page.id ?? i,
  });
  const focusLater = useFocusLater();
  const toRow = (index: number) => {
    const row = rows[index];
    if (!row) return;
    virtual.scrollToIndex(index);
    // A row far from the window is drawn first.
    focusLater(() => list.current?.querySelector<HTMLElement>(`[data-title="${row.page.id}"]`));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const id = event.target instanceof HTMLElement ? event.target.dataset['title'] : undefined;
    if (id === undefined || event.altKey || event.ctrlKey || event.metaKey) return;
    const index = rows.findIndex((row) => row.page.id === id);
    const row = rows[index];
    if (!row) return;
    if (event.key === 'ArrowDown') toRow(index + 1);
    else if (event.key === 'ArrowUp') toRow(index - 1);
    else if (event.key === 'ArrowRight' && row.page.below > 0 && !row.open) onToggle(id);
    else if (event.key === 'ArrowLeft' && row.open) onToggle(id);
    else if (event.key === 'ArrowLeft') toRow(rows.findIndex((other) => other.page.id === row.page.parent));
    else return;
    event.preventDefault();
  };
  const items = virtual.getVirtualItems();
  return (
    <ul ref={list} className="relative" style={{ height: virtual.getTotalSize() }} onKeyDown={onKeyDown}>
      {items.map((item) => {
        const row = rows[item.index];
        if (!row) return null;
        return (
          <li
            key={row.page.id}
            ref={virtual.measureElement}
            data-index={item.index}
            aria-level={row.level}
            aria-posinset={row.at}
            aria-setsize={row.of}
            className="absolute inset-x-0 top-0"
            style={{ transform: `translateY(${item.start - top}px)` }}
          >
            {children(row)}
          </li>
        );
      })}
    </ul>
  );
}

/** Deeper pages stand further in, on a small screen less so. */
export const indent = (level: number, narrow: boolean) => ({
  paddingLeft: `min(${(level - 1) * (narrow ? 0.75 : 1.4)}rem, ${(level - 1) * 2.5}vw)`,
});

/** Opens and shuts what lies below a page. */
export function Toggle({
  row,
  busy,
  onToggle,
}: {
  row: TreeRow<PageInTree>;
  busy: boolean;
  onToggle: (id: string) => void;
}) {
  if (row.page.below === 0) return <span className="w-7 shrink-0" />;
  return (
    <button
      type="button"
      className="flex h-7 w-7 shrink-0 items-center justify-center rounded-s text-ink-2"
      aria-expanded={row.open}
      aria-busy={busy}
      aria-label={`What lies below ${row.page.title}`}
      onClick={() => onToggle(row.page.id)}
    >
      <Icon name={busy ? 'clock' : row.open ? 'down' : 'right'} size={16} />
    </button>
  );
}

/** How a page stands, by word and by mark. Published is the rule and needs no mark. */
export function StateMarks({ row: { page } }: { row: TreeRow }) {
  return (
    <>
      {!page.inNavigation && <span className="pill pill-plain max-sm:hidden">not in navigation</span>}
      {page.state !== 'published' && (
        <span className={`pill ${STATES[page.state].look}`}>
          <span className="sm:hidden">{STATES[page.state].short}</span>
          <span className="max-sm:hidden">{STATES[page.state].name}</span>
        </span>
      )}
      {!page.may.edit && <span className="pill pill-plain max-sm:hidden">read only</span>}
    </>
  );
}

export const rowIcon = ({ page }: TreeRow<PageInTree>) =>
  page.state === 'draft' ? 'draft' : page.state === 'down' ? 'archive' : page.inNavigation ? 'file' : 'eye';

/** A row of the narrow tree beside a page. */
export function NarrowRow({
  row,
  busy,
  current,
  onToggle,
}: {
  row: TreeRow<PageInTree>;
  busy: boolean;
  current: string;
  onToggle: (id: string) => void;
}) {
  const { page } = row;
  const here = page.id === current;
  return (
    <div
      className={`flex min-h-[40px] items-center gap-1 rounded-s pr-2 ${here ? 'bg-pine-soft' : 'hover:bg-pine-wash'}`}
      style={indent(row.level, true)}
    >
      <Toggle row={row} busy={busy} onToggle={onToggle} />
      <a
        href={`/room/pages/${page.id}`}
        data-title={page.id}
        aria-current={here ? 'page' : undefined}
        className={`flex min-w-0 flex-1 items-center gap-2 py-1.5 text-ink no-underline ${here ? 'font-bold' : ''}`}
      >
        <Icon name={rowIcon(row)} size={17} />
        <span className="clip" dir="auto">
          {page.title}
          {page.state !== 'published' && (
            <span className="block text-sm font-normal text-ink-2">{STATES[page.state].name}</span>
          )}
        </span>
      </a>
    </div>
  );
}
