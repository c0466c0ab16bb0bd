import { useState } from 'react';
import { LANGUAGES } from '@/core/content';
import { getEntry, ofInventory } from '@/core/inventory';
import { NO_FILTER, PAGE_SORTS, USUAL_COLUMNS, type PageListSetup } from '@/core/lists';
import { SORT_NAMES } from '@/core/plan';
import { Icon } from '../../kit/Icon';
import { Labelled } from '../../kit/parts';
import { FilterFields } from '../../pages/PageFilters';
import { useInventory } from '../../kit/inventory';

const columnsOf = ofInventory((inventory) => getEntry(inventory.screens, 'pages.tree').columns ?? []);
/** Authors are people, who come and go: a prepared filter names none. */
const choicesOf = ofInventory((inventory) => ({
  layouts: [...inventory.layouts.values()].map(({ id, name }) => ({ id, name })),
  languages: LANGUAGES.map(({ id, name }) => ({ id, name })),
  authors: [],
}));

/** One more filter above the list. */
function NewFilter({
  taken,
  onAdd,
}: {
  taken: readonly string[];
  onAdd: (one: PageListSetup['filters'][number]) => void;
}) {
  const inventory = useInventory();
  const [name, setName] = useState('');
  const [filter, setFilter] = useState(NO_FILTER);
  const [fault, setFault] = useState<string | null>(null);
  const add = () => {
    const called = name.trim();
    if (called === '') return setFault('Give it a name.');
    if (taken.includes(called)) return setFault('There is one of this name already.');
    onAdd({ name: called, filter });
    setName('');
    setFilter(NO_FILTER);
    return setFault(null);
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      aria-label="New filter"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Labelled label="Name of the filter" fault={fault ?? undefined}>
        {(ids) => (
          <input
            {...ids}
            className="field py-1.5"
            maxLength={60}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Labelled>
      <FilterFields filter={filter} onFilter={setFilter} choices={choicesOf(inventory)} />
      <button type="submit" className="btn btn-small">
        <Icon name="plus" size={15} /> Add the filter
      </button>
    </form>
  );
}

/** How the list of pages begins for a role: as a tree or a table, columns, order, filters. */
export function ListPanel({
  list,
  readOnly,
  onChange,
}: {
  list: PageListSetup;
  readOnly: boolean;
  onChange: (list: PageListSetup) => void;
}) {
  const inventory = useInventory();
  const without = (key: keyof PageListSetup): PageListSetup => {
    const { [key]: _, ...rest } = list;
    return { filters: [], ...rest };
  };
  const columns = list.columns ?? USUAL_COLUMNS;
  return (
    <section aria-label="The list of pages" className="card grid gap-4">
      <div>
        <h2 className="text-base">The list of pages</h2>
        <p className="text-sm text-ink-2">How it begins; what they choose there themselves stays theirs.</p>
      </div>
      <fieldset disabled={readOnly} className="grid gap-4">
        <div className="grid gap-4 md:grid-cols-2">
          <Labelled label="Begins">
            {(ids) => (
              <select
                {...ids}
                className="field"
                value={list.view ?? ''}
                onChange={(event) => {
                  const view = (['tree', 'list'] as const).find((one) => one === event.target.value);
                  onChange(view ? { ...list, view } : without('view'));
                }}
              >
                <option value="">As usual: as a tree</option>
                <option value="tree">As a tree</option>
                <option value="list">As a table</option>
              </select>
            )}
          </Labelled>
          <Labelled label="Sorted by">
            {(ids) => (
              <select
                {...ids}
                className="field"
                value={list.sort ? `${list.sort.by} ${list.sort.dir}` : ''}
                onChange={(event) => {
                  const [by, dir] = event.target.value.split(' ');
                  const sort = PAGE_SORTS.find((one) => one === by);
                  onChange(
                    sort ? { ...list, sort: { by: sort, dir: dir === 'down' ? 'down' : 'up' } } : without('sort'),
                  );
                }}
              >
                <option value="">As usual: the last change first</option>
                {PAGE_SORTS.flatMap((by) =>
                  (['up', 'down'] as const).map((dir) => (
                    <option key={`${by} ${dir}`} value={`${by} ${dir}`}>
                      {`By ${SORT_NAMES[by]}, ${dir === 'up' ? 'upwards' : 'downwards'}`}
                    </option>
                  )),
                )}
              </select>
            )}
          </Labelled>
        </div>
        <fieldset>
          <legend className="label">Columns of the table</legend>
          <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
            {columnsOf(inventory).map(({ id, name }) => (
              <label key={id} className="flex min-h-[28px] items-center gap-2">
                <input
                  type="checkbox"
                  className="h-5 w-5 accent-pine"
                  checked={columns.includes(id)}
                  onChange={(event) =>
                    onChange({
                      ...list,
                      columns: columnsOf(inventory)
                        .map((one) => one.id)
                        .filter((one) => (one === id ? event.target.checked : columns.includes(one))),
                    })
                  }
                />
                {name}
              </label>
            ))}
            {list.columns && (
              <button type="button" className="btn btn-quiet btn-small" onClick={() => onChange(without('columns'))}>
                The usual ones
              </button>
            )}
          </div>
        </fieldset>
        <div>
          <p className="label">Filters above it</p>
          {list.filters.length === 0 ? (
            <p className="mb-2 text-sm text-ink-2">None yet. One press on a filter shows just those pages.</p>
          ) : (
            <ul className="mb-3 flex flex-wrap gap-2">
              {list.filters.map((one) => (
                <li key={one.name} className="pill pill-plain inline-flex items-center gap-1.5">
                  <span className="clip">{one.name}</span>
                  {!readOnly && (
                    <button
                      type="button"
                      className="inline-flex min-h-[24px] min-w-[24px] items-center justify-center"
                      aria-label={`Take the filter “${one.name}” away`}
                      onClick={() => onChange({ ...list, filters: list.filters.filter((other) => other !== one) })}
                    >
                      <Icon name="close" size={14} />
                    </button>
                  )}
                </li>
              ))}
            </ul>
          )}
          {!readOnly && list.filters.length < 12 && (
            <NewFilter
              taken={list.filters.map(({ name }) => name)}
              onAdd={(one) => onChange({ ...list, filters: [...list.filters, one] })}
            />
          )}
        </div>
      </fieldset>
    </section>
  );
}
