import { z } from 'zod';
import { PAGE_STATES } from '../access';
import { NO_FILTER, PAGE_SORTS, type PageFilter } from './filter';

/** What the list of pages is asked for, as its address says it. */
export const filterSchema = z.object({
  q: z.string().trim().max(200).default(NO_FILTER.q),
  layout: z.string().max(40).default(NO_FILTER.layout),
  state: z.enum(['', ...PAGE_STATES]).default(NO_FILTER.state),
  navigation: z.enum(['', 'yes', 'no']).default(NO_FILTER.navigation),
  links: z.enum(['', 'broken']).default(NO_FILTER.links),
  language: z.string().max(12).default(NO_FILTER.language),
  author: z.string().max(12).default(NO_FILTER.author),
  days: z.coerce.number<number>().int().min(0).max(3660).default(NO_FILTER.days),
  sort: z.enum(PAGE_SORTS).default(NO_FILTER.sort),
  dir: z.enum(['up', 'down']).default(NO_FILTER.dir),
}) satisfies z.ZodType<PageFilter>;

/** A filter with a name. */
export const savedFilterSchema = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  filter: filterSchema,
});
export type SavedFilter = z.infer<typeof savedFilterSchema>;

/** How the list of pages is prepared; what is left out is as the list has it by itself. */
export const pageListSchema = z.strictObject({
  view: z.enum(['tree', 'list']).optional(),
  /** What is shown of each page at first, by the columns of the inventory. */
  columns: z.array(z.string().min(1).max(40)).max(20).optional(),
  sort: z.strictObject({ by: z.enum(PAGE_SORTS), dir: z.enum(['up', 'down']) }).optional(),
  filters: z.array(savedFilterSchema).max(12),
});
export type PageListSetup = z.infer<typeof pageListSchema>;

/**
 * The list of somebody with several roles, in the order they were given: each thing as the first says it that says
 * something, and the filters of all, the first of each name.
 */
export function joinLists(lists: readonly PageListSetup[]): PageListSetup {
  const first = <K extends keyof PageListSetup>(key: K) => lists.find((list) => list[key] !== undefined)?.[key];
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
