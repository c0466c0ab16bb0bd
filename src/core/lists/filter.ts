import type { PageState } from '../access';

/** What the list of pages is sorted by; `place`: as the tree has them. */
export const PAGE_SORTS = ['title', 'changed', 'state', 'layout', 'author', 'place'] as const;
export type PageSort = (typeof PAGE_SORTS)[number];

/** What the list of pages is asked for; what is empty asks for nothing. */
export interface PageFilter {
  q: string;
  layout: string;
  state: '' | PageState;
  navigation: '' | 'yes' | 'no';
  /** `broken`: what visitors read of it leads somewhere that is not there. */
  links: '' | 'broken';
  language: string;
  author: string;
  /** Changed in the last so many days. */
  days: number;
  sort: PageSort;
  dir: 'up' | 'down';
}
export const NO_FILTER: PageFilter = {
  q: '',
  layout: '',
  state: '',
  navigation: '',
  links: '',
  language: '',
  author: '',
  days: 0,
  sort: 'changed',
  dir: 'down',
};

/** What is shown of a page where nothing is prepared or chosen. */
export const USUAL_COLUMNS: readonly string[] = ['state', 'layout', 'author', 'changed'];
