import type { z } from 'zod';
import { canonical } from '../../json';
import { getEntry, type Inventory } from '../../inventory';
import { pageListSchema, type PageListSetup, type PageSort } from '../../lists';
import { sayList } from '../../words';
import {
  listDifferences,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  unknownNames,
  type PlanPart,
  type PartFault,
} from './part';

type Value = PageListSetup | undefined;
const readable = readableObject({
  columns: readableMany(readableText).optional(),
  filters: readableMany(readableObject({ name: readableText, filter: readableObject({ layout: readableText }) })),
}).optional();
type Readable = z.infer<typeof readable>;

export const SORT_NAMES: Record<PageSort, string> = {
  title: 'title',
  changed: 'last change',
  state: 'state',
  layout: 'layout',
  author: 'author',
  place: 'place in the tree',
};
const columnsOf = (inventory: Inventory) => getEntry(inventory.screens, 'pages.tree').columns ?? [];
const told = (inventory: Inventory, ids: readonly string[]) =>
  ids.length === 0
    ? 'none but the title'
    : sayList(ids.map((id) => columnsOf(inventory).find((one) => one.id === id)?.name ?? id));
const sorted = ({ by, dir }: NonNullable<PageListSetup['sort']>) =>
  `by ${SORT_NAMES[by]}, ${dir === 'up' ? 'upwards' : 'downwards'}`;
const on = operationsOn<Value>();
/** What says nothing is none. */
const orNone = (list: PageListSetup): Value => (canonical(list) === canonical({ filters: [] }) ? undefined : list);

/** How the list of pages begins: as a tree or a table, its columns, its order, filters that stand above it. */
export const pageList = {
  schema: pageListSchema.optional(),
  empty: undefined as Value,
  operations: [
    on(
      'set-page-list',
      { role, list: pageListSchema },
      { apply: (_, _value, op) => orNone(op.list), say: () => 'List of pages: how it begins, columns, order, filters' },
    ),
  ],
  canonical: (_, value) => (value && orNone(value)) ?? null,
  differences({ inventory }, old, now) {
    const [before, after] = [old ?? { filters: [] }, now ?? { filters: [] }];
    const lines: string[] = [];
    if (before.view !== after.view)
      lines.push(`The list of pages begins ${after.view === 'list' ? 'as a table' : 'as a tree'}.`);
    if (canonical(before.columns ?? null) !== canonical(after.columns ?? null))
      lines.push(
        after.columns
          ? `Columns of the list of pages: ${told(inventory, after.columns)}.`
          : 'The list of pages has its usual columns.',
      );
    if (canonical(before.sort ?? null) !== canonical(after.sort ?? null))
      lines.push(
        after.sort ? `The list of pages is sorted ${sorted(after.sort)}.` : 'The list of pages is in its usual order.',
      );
    const names = ({ filters }: PageListSetup) => filters.map(({ name }) => name);
    lines.push(
      ...listDifferences(
        names(before),
        names(after),
        (name) => `New filter above the list of pages: “${name}”.`,
        (name) => `No longer a filter above the list of pages: “${name}”.`,
      ),
    );
    const of = ({ filters }: PageListSetup, name: string) => filters.find((one) => one.name === name)?.filter;
    const both = names(after).filter((name) => names(before).includes(name));
    for (const name of both)
      if (canonical(of(before, name) ?? null) !== canonical(of(after, name) ?? null))
        lines.push(`The filter “${name}” finds other pages.`);
    const kept = names(before).filter((name) => both.includes(name));
    if (canonical(kept) !== canonical(both)) lines.push('Filters of the list of pages stand in another order.');
    return lines;
  },
  rows: {
    name: 'List of pages',
    of: (inventory, value) => [
      ['Begins', value?.view === 'list' ? 'as a table' : 'as a tree'],
      ['Columns', value?.columns ? told(inventory, value.columns) : ''],
      ['Order', value?.sort ? sorted(value.sort) : ''],
      ['Filters', (value?.filters ?? []).map(({ name }) => name).join(', ')],
    ],
  },
  readable,
  twice: (value) => [
    ...(value?.columns ?? []).map((id) => id && `column ${id}`),
    ...(value?.filters ?? []).map(({ name }) => name),
  ],
  unknown: (inventory, value): PartFault[] => [
    ...unknownNames(
      value?.columns ?? [],
      (id) => columnsOf(inventory).some((one) => one.id === id),
      (i) => ['columns', i],
      (id) => `the list of pages has no column "${id}"`,
    ),
    ...unknownNames(
      (value?.filters ?? []).map(({ filter }) => filter.layout).filter((id) => id !== ''),
      (id) => inventory.layouts.has(id),
      () => ['filters'],
      (id) => `there is no layout "${id}"`,
    ),
  ],
} satisfies PlanPart<Value, Readable>;
