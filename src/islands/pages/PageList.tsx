import type { Calendar } from '@/core/words';
import type { ListedPage } from '@/core/content';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { getEntry } from '@/core/inventory';
import { USUAL_COLUMNS, type PageFilter, type PageListSetup as Prepared, type SavedFilter } from '@/core/lists';
import { Icon } from '../kit/Icon';
import { Empty, ProblemNote } from '../kit/parts';
import { send, type ProblemDetails } from '../kit/send';
import { COLUMNS } from './columns';
import { queryOf } from './model';
import { PageFilters, type Choices } from './PageFilters';

const COLUMNS_KEY = 'safe-room-page-columns';
const STRETCH = 100;
const ROW_PX = 46;
const AFTER_TYPING_MS = 250;

/** The stretches of the list that were asked for, fetched as the window comes near them. */
function useStretches(filter: PageFilter) {
  const [rows, setRows] = useState<ReadonlyMap<number, ListedPage>>(new Map());
  const [total, setTotal] = useState<number | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const asked = useRef(new Set<number>());
  const turn = useRef(0);
  /** What is there is of an earlier filter; it stands until something newer comes. */
  const stale = useRef(false);
  const query = queryOf(filter);
  const load = useCallback(
    async (from: number) => {
      const offset = Math.floor(from / STRETCH) * STRETCH;
      if (asked.current.has(offset)) return;
      asked.current.add(offset);
      const mine = turn.current;
      const sent = await send('GET', `/api/pages/list?${query}&offset=${offset}`);
      if (mine !== turn.current) return;
      setProblem(sent.ok ? null : sent.problem);
      if (!sent.ok) return void asked.current.delete(offset);
      setTotal(sent.value.total);
      const kept = !stale.current;
      stale.current = false;
      setRows(
        (old) => new Map([...(kept ? old : []), ...sent.value.pages.map((page, i) => [offset + i, page] as const)]),
      );
    },
    [query],
  );
  useEffect(() => {
    turn.current++;
    stale.current = true;
    // The beginning is asked for when typing has ended, and not before.
    asked.current = new Set([0]);
    const timer = setTimeout(() => {
      asked.current.delete(0);
      void load(0);
    }, AFTER_TYPING_MS);
    return () => clearTimeout(timer);
  }, [load]);
  return { rows, total, problem, load };
}

/** The pages as a table: filtered, sorted and cut by the server, so that thousands stay smooth. */
export function PageList({
  filter,
  onFilter,
  saved,
  prepared,
  choices,
  chosen,
  onChoose,
  menu,
  calendar,
  now,
}: {
  filter: PageFilter;
  onFilter: (filter: PageFilter) => void;
  saved: SavedFilter[];
  prepared: Prepared;
  choices: Choices;
  chosen: ReadonlyMap<string, string> | null;
  onChoose: (page: ListedPage, on: boolean) => void;
  menu: (page: ListedPage) => ReactNode;
  calendar: Calendar;
  now: string;
}) {
  const { rows, total, problem, load } = useStretches(filter);
  const [columns, setColumns] = useState<ReadonlySet<string>>(new Set(prepared.columns ?? USUAL_COLUMNS));
  useEffect(() => {
    const kept = localStorage.getItem(COLUMNS_KEY);
    if (kept) setColumns(new Set(kept.split(' ')));
  }, []);
  const shown = choices.columns
    .filter((column) => columns.has(column.id))
    .map((column) => ({ ...column, ...getEntry(COLUMNS, column.id) }));
  const body = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(body.current?.offsetTop ?? 0), [total]);
  const virtual = useWindowVirtualizer({
    count: total ?? 0,
    estimateSize: () => ROW_PX,
    overscan: 10,
    scrollMargin: top,
  });
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => {
    if (total === null) return;
    void load(first);
    void load(last);
  }, [first, last, total, load]);
  const grid = {
    gridTemplateColumns: `${chosen === null ? '' : '2.5rem '}minmax(12rem,1fr) ${shown.map((column) => column.width).join(' ')} 2.5rem`,
  };
  const sortBy = (sort: PageFilter['sort']) =>
    onFilter({
      ...filter,
      sort,
      dir: filter.sort === sort ? (filter.dir === 'up' ? 'down' : 'up') : sort === 'changed' ? 'down' : 'up',
    });
  const head = (name: string, sort: PageFilter['sort'] | null) => (
    <div
      key={name}
      role="columnheader"
      aria-sort={filter.sort === sort ? (filter.dir === 'up' ? 'ascending' : 'descending') : undefined}
      className="min-w-0"
    >
      {sort ? (
        <button type="button" className="inline-flex items-center gap-1 font-semibold" onClick={() => sortBy(sort)}>
          {name} {filter.sort === sort && <Icon name={filter.dir === 'up' ? 'up' : 'down'} size={14} />}
        </button>
      ) : (
        <span className="font-semibold">{name}</span>
      )}
    </div>
  );
  return (
    <div>
      <PageFilters filter={filter} onFilter={onFilter} saved={saved} prepared={prepared.filters} choices={choices} />
      <ProblemNote problem={problem} />
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p role="status" className="text-ink-2">
          {total === null ? 'Looking…' : total === 1 ? '1 page' : `${total} pages`}
        </p>
        <details className="relative">
          <summary className="btn btn-quiet btn-small">Columns</summary>
          <div className="card absolute right-0 z-30 grid min-w-[12rem] gap-1 p-2">
            {choices.columns.map((column) => (
              <label key={column.id} className="flex items-center gap-2 px-1 py-1">
                <input
                  type="checkbox"
                  className="h-5 w-5"
                  checked={columns.has(column.id)}
                  onChange={(event) => {
                    const next = new Set(
                      event.target.checked ? [...columns, column.id] : [...columns].filter((id) => id !== column.id),
                    );
                    setColumns(next);
                    localStorage.setItem(COLUMNS_KEY, [...next].join(' '));
                  }}
                />
                {column.name}
              </label>
            ))}
            <button
              type="button"
              className="btn btn-small mt-1"
              onClick={() => {
                setColumns(new Set(prepared.columns ?? USUAL_COLUMNS));
                localStorage.removeItem(COLUMNS_KEY);
              }}
            >
              As prepared
            </button>
          </div>
        </details>
      </div>
      {total === 0 ? (
        <Empty icon="search" title="No page fits">
          Take a filter away, or type fewer letters.
        </Empty>
      ) : (
        <div role="table" aria-label="Pages" aria-rowcount={(total ?? 0) + 1} className="relative overflow-x-auto">
          <div role="rowgroup" className="min-w-max">
            <div
              role="row"
              aria-rowindex={1}
              className="grid gap-3 border-b border-line-2 px-2 py-2 text-[0.92rem] text-ink-2"
              style={grid}
            >
              {chosen !== null && (
                <div role="columnheader">
                  <span className="sr-only">Chosen</span>
                </div>
              )}
              {head('Title', 'title')}
              {shown.map((column) => head(column.name, column.sort))}
              <div role="columnheader">
                <span className="sr-only">More</span>
              </div>
            </div>
          </div>
          <div role="rowgroup" ref={body} className="relative min-w-max" style={{ height: virtual.getTotalSize() }}>
            {items.map((item) => {
              const page = rows.get(item.index);
              return (
                <div
                  key={item.key}
                  role="row"
                  aria-rowindex={item.index + 2}
                  ref={virtual.measureElement}
                  data-index={item.index}
                  className="absolute inset-x-0 top-0 grid min-h-[45px] items-center gap-3 border-b border-line px-2 hover:bg-pine-wash"
                  style={{ ...grid, transform: `translateY(${item.start - top}px)` }}
                >
                  {page ? (
                    <>
                      {chosen !== null && (
                        <div role="cell">
                          <input
                            type="checkbox"
                            className="h-5 w-5"
                            aria-label={`Choose ${page.title}`}
                            checked={chosen.has(page.id)}
                            onChange={(event) => onChoose(page, event.target.checked)}
                          />
                        </div>
                      )}
                      <div role="cell" className="min-w-0 py-2">
                        <a className="link clip" dir="auto" href={`/room/pages/${page.id}`}>
                          {page.title}
                        </a>
                      </div>
                      {shown.map((column) => (
                        <div key={column.id} role="cell" className="clip text-[0.95rem]">
                          {column.cell(page, { languages: choices.languages, calendar, now })}
                        </div>
                      ))}
                      <div role="cell">{menu(page)}</div>
                    </>
                  ) : (
                    <div role="cell" className="text-ink-3">
                      …
                    </div>
                  )}
                </div>
              );
            })}
          </div>
        </div>
      )}
    </div>
  );
}
