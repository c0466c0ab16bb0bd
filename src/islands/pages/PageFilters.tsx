import { useState } from 'react';
import { NO_FILTER, type PageFilter, type SavedFilter } from '@/core/lists';
import { ProblemNote } from '../kit/parts';
import { send, type ProblemDetails } from '../kit/send';
import { isFiltered, queryOf, STATES } from './model';

export interface Choice {
  id: string;
  name: string;
}
export interface Choices {
  layouts: Choice[];
  languages: Choice[];
  authors: Choice[];
  /** What the list can show of a page, as the inventory has it. */
  columns: readonly Choice[];
}

const any = { id: '', name: 'Any' };

/** What a filter is set with, one choice each. */
export function FilterFields({
  filter,
  onFilter,
  choices,
}: {
  filter: PageFilter;
  onFilter: (filter: PageFilter) => void;
  choices: Omit<Choices, 'columns'>;
}) {
  const pick = (key: keyof PageFilter, label: string, options: readonly Choice[]) => (
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
  return (
    <>
      {pick('state', 'State', [any, ...Object.entries(STATES).map(([id, { name: words }]) => ({ id, name: words }))])}
      {pick('layout', 'Layout', [any, ...choices.layouts])}
      {choices.authors.length > 0 && pick('author', 'Author', [any, ...choices.authors])}
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
      {pick('links', 'Links', [any, { id: 'broken', name: 'Some broken' }])}
    </>
  );
}

/** What the list of pages is cut down by; filters somebody has given a name. */
export function PageFilters({
  filter,
  onFilter,
  saved: initial,
  prepared,
  choices,
}: {
  filter: PageFilter;
  onFilter: (filter: PageFilter) => void;
  saved: SavedFilter[];
  /** Filters the administrator put there. */
  prepared: readonly SavedFilter[];
  choices: Choices;
}) {
  const [saved, setSaved] = useState(initial);
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const keep = async (as: string, what: PageFilter | null) => {
    const sent = await send('POST', '/api/pages/filters', { name: as, filter: what });
    setProblem(sent.ok ? null : sent.problem);
    if (!sent.ok) return;
    setSaved(sent.value.filters);
    setName(null);
  };
  const active = saved.find((entry) => queryOf(entry.filter) === queryOf(filter));
  return (
    <section aria-label="Filters" className="mb-3 grid gap-2">
      {(
        [
          ['For you:', prepared],
          ['Yours:', saved],
        ] as const
      ).map(
        ([title, filters]) =>
          filters.length > 0 && (
            <div key={title} className="flex flex-wrap items-center gap-2">
              <span className="label mb-0">{title}</span>
              {filters.map((entry) => {
                const isOn = queryOf(entry.filter) === queryOf(filter);
                return (
                  <button
                    key={entry.name}
                    type="button"
                    aria-pressed={isOn}
                    className={`btn btn-small ${isOn ? 'bg-pine-soft text-pine-2' : ''}`}
                    onClick={() => onFilter(isOn ? { ...NO_FILTER, sort: filter.sort, dir: filter.dir } : entry.filter)}
                  >
                    <span className="clip">{entry.name}</span>
                  </button>
                );
              })}
            </div>
          ),
      )}
      <div className="flex flex-wrap items-end gap-3">
        <FilterFields filter={filter} onFilter={onFilter} choices={choices} />
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
