import type { ListedPage } from '@/core/content';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { sayTime } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Empty, ProblemNote } from '../kit/parts';
import { send, type ProblemDetails } from '../kit/send';
import { isFiltered, NO_FILTER, queryOf, STATES, type Filter } from './model';

interface Choice {
  id: string;
  name: string;
}
export interface Choices {
  layouts: Choice[];
  languages: Choice[];
  authors: Choice[];
}

const COLUMNS = [
  { id: 'state', name: 'State', sort: 'state', width: '11rem' },
  { id: 'layout', name: 'Layout', sort: 'layout', width: '9rem' },
  { id: 'author', name: 'Author', sort: 'author', width: '9rem' },
  { id: 'changed', name: 'Last change', sort: 'changed', width: '11rem' },
  { id: 'address', name: 'Address', sort: null, width: '13rem' },
  { id: 'language', name: 'Language', sort: null, width: '7rem' },
] as const;
type ColumnId = (typeof COLUMNS)[number]['id'];
const COLUMNS_KEY = 'safe-room-page-columns';
const STRETCH = 100;
const ROW_PX = 46;
const AFTER_TYPING_MS = 250;

/** The stretches of the list that were asked for, fetched as the window comes near them. */
function useStretches(filter: Filter) {
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
      const sent = await send<{ pages: ListedPage[]; total: number }>(
        'GET',
        `/api/pages/list?${query}&offset=${offset}`,
      );
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
  choices,
  chosen,
  onChoose,
  menu,
  timeZone,
  now,
}: {
  filter: Filter;
  onFilter: (filter: Filter) => void;
  saved: { name: string; filter: Filter }[];
  choices: Choices;
  chosen: ReadonlyMap<string, string> | null;
  onChoose: (page: ListedPage, on: boolean) => void;
  menu: (page: ListedPage) => ReactNode;
  timeZone: string;
  now: string;
}) {
  const { rows, total, problem, load } = useStretches(filter);
  const [columns, setColumns] = useState<ReadonlySet<ColumnId>>(new Set(['state', 'layout', 'author', 'changed']));
  useEffect(() => {
    const kept = localStorage.getItem(COLUMNS_KEY);
    if (kept)
      setColumns(new Set(kept.split(' ').filter((id): id is ColumnId => COLUMNS.some((column) => column.id === id))));
  }, []);
  const shown = COLUMNS.filter((column) => columns.has(column.id));
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
  const sortBy = (sort: string) =>
    onFilter({
      ...filter,
      sort,
      dir: filter.sort === sort ? (filter.dir === 'up' ? 'down' : 'up') : sort === 'changed' ? 'down' : 'up',
    });
  const head = (name: string, sort: string | null) => (
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
      <Filters filter={filter} onFilter={onFilter} saved={saved} choices={choices} />
      <ProblemNote problem={problem} />
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p role="status" className="text-ink-2">
          {total === null ? 'Looking…' : total === 1 ? '1 page' : `${total} pages`}
        </p>
        <details className="relative">
          <summary className="btn btn-quiet btn-small">Columns</summary>
          <div className="card absolute right-0 z-30 grid min-w-[12rem] gap-1 p-2">
            {COLUMNS.map((column) => (
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
                          {column.id === 'state' && (
                            <span className="flex flex-wrap gap-1">
                              <span className={`pill ${STATES[page.state].look}`}>{STATES[page.state].short}</span>
                              {!page.inNavigation && <span className="pill pill-plain">not in navigation</span>}
                            </span>
                          )}
                          {column.id === 'layout' && page.layout}
                          {column.id === 'author' && (page.author ?? 'Nobody')}
                          {column.id === 'changed' && sayTime(new Date(page.changedAt), timeZone, new Date(now))}
                          {column.id === 'address' && page.address}
                          {column.id === 'language' &&
                            (choices.languages.find((language) => language.id === page.language)?.name ??
                              page.language)}
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

function Filters({
  filter,
  onFilter,
  saved: initial,
  choices,
}: {
  filter: Filter;
  onFilter: (filter: Filter) => void;
  saved: { name: string; filter: Filter }[];
  choices: Choices;
}) {
  const [saved, setSaved] = useState(initial);
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const keep = async (as: string, what: Filter | null) => {
    const sent = await send<{ filters: { name: string; filter: Filter }[] }>('POST', '/api/pages/filters', {
      name: as,
      filter: what,
    });
    setProblem(sent.ok ? null : sent.problem);
    if (!sent.ok) return;
    setSaved(sent.value.filters);
    setName(null);
  };
  const pick = (key: keyof Filter, label: string, options: readonly Choice[]) => (
    <label className="grid gap-0.5">
      <span className="label mb-0">{label}</span>
      <select
        className="field w-auto max-w-[12rem] py-1.5"
        value={String(filter[key])}
        onChange={(event) =>
          onFilter({ ...filter, [key]: key === 'days' ? Number(event.target.value) : event.target.value })
        }
      >
        {options.map((option) => (
          <option key={option.id} value={option.id}>
            {option.name}
          </option>
        ))}
      </select>
    </label>
  );
  const any = { id: '', name: 'Any' };
  const active = saved.find((entry) => queryOf(entry.filter) === queryOf(filter));
  return (
    <section aria-label="Filters" className="mb-3 grid gap-2">
      {saved.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="label mb-0">Yours:</span>
          {saved.map((entry) => (
            <button
              key={entry.name}
              type="button"
              aria-pressed={active === entry}
              className={`btn btn-small ${active === entry ? 'bg-pine-soft text-pine-2' : ''}`}
              onClick={() => onFilter(active === entry ? NO_FILTER : entry.filter)}
            >
              <span className="clip">{entry.name}</span>
            </button>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-end gap-3">
        {pick('state', 'State', [any, ...Object.entries(STATES).map(([id, { name: words }]) => ({ id, name: words }))])}
        {pick('layout', 'Layout', [any, ...choices.layouts])}
        {pick('author', 'Author', [any, ...choices.authors])}
        {pick('language', 'Language', [any, ...choices.languages])}
        {pick('days', 'Changed', [
          { id: '0', name: 'Any time' },
          { id: '1', name: 'In the last day' },
          { id: '7', name: 'In the last week' },
          { id: '30', name: 'In the last month' },
          { id: '365', name: 'In the last year' },
        ])}
        {pick('navigation', 'Navigation', [
          any,
          { id: 'yes', name: 'Shown there' },
          { id: 'no', name: 'Not shown there' },
        ])}
        {pick('links', 'Links', [any, { id: 'broken', name: 'Some lead nowhere' }])}
        {isFiltered(filter) && (
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn btn-quiet btn-small"
              onClick={() => onFilter({ ...NO_FILTER, sort: filter.sort, dir: filter.dir })}
            >
              Take the filters away
            </button>
            {active ? (
              <button type="button" className="btn btn-quiet btn-small" onClick={() => void keep(active.name, null)}>
                Forget “{active.name}”
              </button>
            ) : (
              name === null && (
                <button type="button" className="btn btn-quiet btn-small" onClick={() => setName('')}>
                  Keep this filter
                </button>
              )
            )}
          </div>
        )}
      </div>
      {name !== null && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim()) void keep(name.trim(), filter);
          }}
        >
          <label className="grid gap-0.5">
            <span className="label mb-0">Name of this filter</span>
            <input
              className="field py-1.5"
              maxLength={60}
              value={name}
              autoFocus
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <button type="submit" className="btn btn-main btn-small" disabled={name.trim() === ''}>
            Keep it
          </button>
          <button type="button" className="btn btn-quiet btn-small" onClick={() => setName(null)}>
            Not now
          </button>
        </form>
      )}
      <ProblemNote problem={problem} />
    </section>
  );
}
