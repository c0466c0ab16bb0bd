import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { MapRow } from '@/core/access';
import { fold } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Empty, Safe, useFocusLater } from '../kit/parts';
import { keepView, type MapView } from './view';
import { WhyCell } from './WhyCell';
import { type Column, bySection, byPermission, extentOf, mapSections, sectionName, EXTENT_LOOK } from './columns';
import { onSite, useInventory } from '../kit/inventory';

export interface AccessMapProps {
  rows: MapRow[];
  kind: 'people' | 'roles';
  query: string;
  where: string;
  view: MapView;
}
const ROW_PX = 46;
const FIRST_PX = 216;

/** Who may do what on a branch, as a table: yes, only some, no, by shape, word and colour. Every cell opens its why. */
export const AccessMap = onSite(function AccessMap(props: AccessMapProps) {
  return (
    <Safe>
      <Grid {...props} />
    </Safe>
  );
});

function Grid({ rows, kind, query, where, view: asked }: AccessMapProps) {
  const inventory = useInventory();
  const [view, setView] = useState(asked);
  const { find: typed, by, section, only } = view;
  const look = (change: Partial<MapView>) => {
    const next = { ...view, ...change };
    setView(next);
    keepView(next);
  };
  const [at, setAt] = useState<[row: number, column: number]>([0, 0]);
  const [why, setWhy] = useState<{ row: MapRow; column: Column } | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const columns = useMemo(
    () =>
      (by === 'section' ? bySection(inventory) : byPermission(inventory)).filter(
        (c) => section === '' || c.section === section,
      ),
    [inventory, by, section],
  );
  const shown = useMemo(() => {
    const words = fold(typed.trim());
    return rows.filter(
      (row) =>
        (words === '' || fold(`${row.name} ${row.says}`).includes(words)) &&
        (only === '' || columns.some((c) => extentOf(row, c) === only)),
    );
  }, [rows, typed, only, columns]);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    initialRect: { width: 900, height: 560 },
  });
  const columnPx = by === 'section' ? 100 : 122;
  const template = `${FIRST_PX}px repeat(${columns.length}, minmax(${columnPx}px, 1fr))`;
  const width = `max(100%, ${FIRST_PX + columns.length * columnPx}px)`;
  const [rowAt, columnAt] = [Math.min(at[0], Math.max(0, shown.length - 1)), Math.min(at[1], columns.length - 1)];

  const focusLater = useFocusLater();
  const go = (row: number, column: number) => {
    const next: [number, number] = [
      Math.max(0, Math.min(shown.length - 1, row)),
      Math.max(0, Math.min(columns.length - 1, column)),
    ];
    setAt(next);
    virtual.scrollToIndex(next[0]);
    focusLater(() => box.current?.querySelector<HTMLElement>(`[data-cell="${next[0]} ${next[1]}"]`));
  };
  const keys = (event: KeyboardEvent) => {
    const moves: Record<string, [number, number]> = {
      ArrowDown: [rowAt + 1, columnAt],
      ArrowUp: [rowAt - 1, columnAt],
      ArrowRight: [rowAt, columnAt + 1],
      ArrowLeft: [rowAt, columnAt - 1],
      Home: [event.ctrlKey ? 0 : rowAt, 0],
      End: [event.ctrlKey ? shown.length - 1 : rowAt, columns.length - 1],
      PageDown: [rowAt + 10, columnAt],
      PageUp: [rowAt - 10, columnAt],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    go(...move);
  };
  return (
    <div className="grid gap-3">
      <div className="no-print flex flex-wrap items-end gap-3">
        <div className="min-w-[12rem] flex-1">
          <label className="label" htmlFor="map-find">
            {kind === 'people' ? 'Find somebody, or a role' : 'Find a role'}
          </label>
          <input
            id="map-find"
            className="field"
            value={typed}
            onChange={(event) => look({ find: event.target.value })}
            placeholder="Type part of a name"
          />
        </div>
        <div>
          <label className="label" htmlFor="map-by">
            Columns
          </label>
          <select
            id="map-by"
            className="field"
            value={by}
            onChange={(event) => look({ by: event.target.value as MapView['by'] })}
          >
            <option value="section">Sections</option>
            <option value="permission">Everything one may do</option>
          </select>
        </div>
        <div>
          <label className="label" htmlFor="map-section">
            Section
          </label>
          <select
            id="map-section"
            className="field"
            value={section}
            onChange={(event) =>
              look({ section: event.target.value, ...(event.target.value && { by: 'permission' as const }) })
            }
          >
            <option value="">All</option>
            {mapSections(inventory).map((s) => (
              <option key={s.id} value={s.id}>
                {sectionName(inventory, s.id)}
              </option>
            ))}
          </select>
        </div>
        <div>
          <label className="label" htmlFor="map-only">
            Rows with
          </label>
          <select
            id="map-only"
            className="field"
            value={only}
            onChange={(event) => look({ only: event.target.value as MapView['only'] })}
          >
            <option value="">anything</option>
            <option value="yes">a yes</option>
            <option value="some">an “only some”</option>
            <option value="no">a no</option>
          </select>
        </div>
        <a className="btn" href={`/api/access/map?${query}`} download>
          Export CSV
        </a>
      </div>
      <p className="flex flex-wrap gap-x-4 gap-y-1 text-sm text-ink-2" role="status">
        <span>
          {shown.length === rows.length ? `${rows.length} ${kind}` : `${shown.length} of ${rows.length} ${kind}`},{' '}
          {where}.
        </span>
        {(['yes', 'some', 'no'] as const).map((extent) => (
          <span key={extent} className="inline-flex items-center gap-1">
            <span className={`inline-flex rounded-s p-0.5 ${EXTENT_LOOK[extent].look}`}>
              <Icon name={EXTENT_LOOK[extent].icon} size={14} />
            </span>{' '}
            {extent === 'some' ? 'some: only on part of it' : EXTENT_LOOK[extent].word}
          </span>
        ))}
      </p>
      {shown.length === 0 ? (
        <div className="card">
          <Empty icon="search" title="Nothing fits">
            Change what you typed, or show other rows.
          </Empty>
        </div>
      ) : (
        <div
          ref={box}
          role="grid"
          aria-label={`What ${kind} may do, ${where}`}
          aria-rowcount={shown.length + 1}
          aria-colcount={columns.length + 1}
          data-anchor="workshop.map.grid"
          onKeyDown={keys}
          className="card relative max-h-[62vh] overflow-auto p-0"
        >
          <div
            role="row"
            aria-rowindex={1}
            className="sticky top-0 z-10 grid border-b border-line-2 bg-sheet"
            style={{ gridTemplateColumns: template, width }}
          >
            <div
              role="columnheader"
              className="sticky left-0 z-10 flex items-end border-r border-line bg-sheet px-3 py-2 text-sm font-semibold text-ink-2"
            >
              {kind === 'people' ? 'Person' : 'Role'}
            </div>
            {columns.map((column) => (
              <div
                key={column.id}
                role="columnheader"
                className="flex min-w-0 flex-col justify-end px-1.5 py-2 text-center text-sm leading-tight font-semibold"
              >
                {by === 'permission' && (
                  <span className="text-[0.8rem] font-normal text-ink-2">{sectionName(inventory, column.section)}</span>
                )}
                <span className="clip">{column.name}</span>
              </div>
            ))}
          </div>
          <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize(), width }}>
            {virtual.getVirtualItems().map((item) => {
              const row = shown[item.index] as MapRow;
              return (
                <div
                  key={row.id}
                  role="row"
                  aria-rowindex={item.index + 2}
                  className="absolute top-0 left-0 grid w-full border-b border-line"
                  style={{ height: ROW_PX, transform: `translateY(${item.start}px)`, gridTemplateColumns: template }}
                >
                  <div
                    role="rowheader"
                    className="sticky left-0 z-[5] min-w-0 border-r border-line bg-sheet px-3 py-1 leading-tight"
                  >
                    <span dir="auto" className="block truncate text-left font-semibold" title={row.name}>
                      {row.name}
                    </span>
                    <span className="block truncate text-sm text-ink-2" title={row.says}>
                      {row.says}
                    </span>
                  </div>
                  {columns.map((column, c) => {
                    const look = EXTENT_LOOK[extentOf(row, column)];
                    return (
                      <div key={column.id} role="gridcell" className="p-1">
                        <button
                          type="button"
                          data-cell={`${item.index} ${c}`}
                          tabIndex={item.index === rowAt && c === columnAt ? 0 : -1}
                          aria-label={`${row.name}, ${column.name}: ${look.word}. Why?`}
                          className={`flex h-full w-full items-center justify-center gap-1.5 rounded-s text-sm font-semibold hover:outline-2 hover:outline-pine ${look.look}`}
                          onFocus={() => setAt([item.index, c])}
                          onClick={() => setWhy({ row, column })}
                        >
                          <Icon name={look.icon} size={15} /> {look.word}
                        </button>
                      </div>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      )}
      {why && <WhyCell row={why.row} column={why.column} query={query} onClose={() => setWhy(null)} />}
    </div>
  );
}
