import { z } from 'zod';
import { PAGE_STATES } from '../access';

/** What the list of pages is sorted by; `place`: as the tree has them. */
export const PAGE_SORTS = ['title', 'changed', 'state', 'layout', 'author', 'place'] as const;
export type PageSort = (typeof PAGE_SORTS)[number];

/** What the list of pages is asked for, as its address says it; all empty means everything. */
export const filterSchema = z.object({
  q: z.string().trim().max(200).default(''),
  layout: z.string().max(40).default(''),
  state: z.enum(['', ...PAGE_STATES]).default(''),
  navigation: z.enum(['', 'yes', 'no']).default(''),
  /** `broken`: what visitors read of it leads somewhere that is not there. */
  links: z.enum(['', 'broken']).default(''),
  language: z.string().max(12).default(''),
  author: z.string().max(12).default(''),
  /** Changed in the last so many days. */
  days: z.coerce.number<number>().int().min(0).max(3660).default(0),
  sort: z.enum(PAGE_SORTS).default('changed'),
  dir: z.enum(['up', 'down']).default('down'),
});
export type PageFilter = z.infer<typeof filterSchema>;
export const NO_FILTER: PageFilter = filterSchema.parse({});

/** A filter with a name. */
export const savedFilterSchema = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  filter: filterSchema,
});
export type SavedFilter = z.infer<typeof savedFilterSchema>;

/** What is shown of a page where nothing is prepared or chosen. */
export const USUAL_COLUMNS: readonly string[] = ['state', 'layout', 'author', 'changed'];

/** How the list of pages is prepared; what is left out is as the list has it by itself. */
export const pageListSchema = z.strictObject({
  view: z.enum(['tree', 'list']).optional(),
  /** What is shown of each page at first, by the columns of the inventory. */
  columns: z.array(z.string().min(1).max(40)).max(20).optional(),
  sort: z.strictObject({ by: z.enum(PAGE_SORTS), dir: z.enum(['up', 'down']) }).optional(),
  filters: z.array(savedFilterSchema).max(12),
});
export type PageList = z.infer<typeof pageListSchema>;

/**
 * The list of somebody with several roles, in the order they were given: each thing as the first says it that says
 * something, and the filters of all, the first of each name.
 */
export function joinLists(lists: readonly PageList[]): PageList {
  const first = <K extends keyof PageList>(key: K) => lists.find((list) => list[key] !== undefined)?.[key];
  const [view, columns, sort] = [first('view'), first('columns'), first('sort')];
  const filters = lists.flatMap((list) => list.filters);
  return {
    ...(view && { view }),
    ...(columns && { columns }),
    ...(sort && { sort }),
    filters: filters.filter(({ name }, i) => filters.findIndex((one) => one.name === name) === i),
  };
}

/** A filter as an address names it, on top of another; what does not fit there is left out. */
export function filterFrom(asked: ReadonlyMap<string, string>, base: PageFilter): PageFilter {
  const named = Object.entries(filterSchema.shape).flatMap(([key, one]) => {
    const read = asked.has(key) ? one.safeParse(asked.get(key)) : undefined;
    return read?.success ? [[key, read.data] as const] : [];
  });
  return { ...base, ...Object.fromEntries(named) };
}
