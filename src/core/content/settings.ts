import type { Field } from './layout';
import type { PageContent } from './value';
import { textOf } from './values';

/** Languages a page can be in, by their tags (BCP 47); `rtl` where they are written from right to left. */
export const LANGUAGES = [
  { id: 'en', name: 'English' },
  { id: 'cy', name: 'Welsh' },
  { id: 'gd', name: 'Scottish Gaelic' },
  { id: 'nl', name: 'Dutch' },
  { id: 'fr', name: 'French' },
  { id: 'de', name: 'German' },
  { id: 'nb', name: 'Norwegian' },
  { id: 'pl', name: 'Polish' },
  { id: 'ar', name: 'Arabic', rtl: true },
  { id: 'he', name: 'Hebrew', rtl: true },
] as const satisfies readonly { id: string; name: string; rtl?: true }[];
export const isRightToLeft = (language: string): boolean =>
  LANGUAGES.some((known) => known.id === language && 'rtl' in known);

/**
 * What every page has beside its layout's fields, whatever the layout: fields too, so that they are kept as a draft,
 * compared, looked at a second time and published like its words.
 */
export const SETTINGS = [
  { id: 'page.layout', kind: 'short', name: 'Layout', max: 40 },
  {
    id: 'page.slug',
    kind: 'short',
    name: 'Last part of the address',
    hint: 'Small letters, digits and hyphens.',
    max: 80,
  },
  {
    id: 'page.ownAddress',
    kind: 'short',
    name: 'Address of its own',
    hint: 'Leave it empty and the address follows the page above.',
    max: 200,
  },
  { id: 'page.redirect', kind: 'yes', name: 'The old address leads here' },
  {
    id: 'page.shortName',
    kind: 'short',
    name: 'Short name in navigation',
    hint: 'The page title where it is empty.',
    max: 40,
  },
  { id: 'page.inNavigation', kind: 'yes', name: 'Shown in navigation' },
  {
    id: 'page.searchTitle',
    kind: 'short',
    name: 'Title in search results',
    hint: 'The page title where it is empty.',
    max: 120,
  },
  { id: 'page.searchText', kind: 'long', name: 'Words under it', hint: 'The summary where it is empty.', max: 320 },
  { id: 'page.author', kind: 'person', name: 'Author' },
  { id: 'page.day', kind: 'day', name: 'Date of the page' },
  { id: 'page.language', kind: 'choice', name: 'Language', options: LANGUAGES },
] as const satisfies readonly Field[];

export interface PageSettings {
  layout: string;
  slug: string;
  ownAddress: string | null;
  redirect: boolean;
  shortName: string | null;
  inNavigation: boolean;
  author: string | null;
  day: string | null;
  language: string;
}

/** The settings a content says, as columns hold them; null where an empty field says "as usual". */
export const settingsOf = (content: PageContent): PageSettings => ({
  layout: textOf(content, 'page.layout'),
  slug: textOf(content, 'page.slug'),
  ownAddress: textOf(content, 'page.ownAddress') || null,
  redirect: content['page.redirect'] !== false,
  shortName: textOf(content, 'page.shortName') || null,
  inNavigation: content['page.inNavigation'] !== false,
  author: textOf(content, 'page.author') || null,
  day: textOf(content, 'page.day') || null,
  language: textOf(content, 'page.language') || 'en',
});

/** Every setting, as a page begins with them. What a page says always says all of them. */
export const startSettings = (
  page: Pick<PageSettings, 'layout' | 'slug' | 'author' | 'language'> &
    Partial<Pick<PageSettings, 'shortName' | 'inNavigation'>>,
): PageContent => ({
  'page.layout': page.layout,
  'page.slug': page.slug,
  'page.ownAddress': '',
  'page.redirect': true,
  'page.shortName': page.shortName ?? '',
  'page.inNavigation': page.inNavigation ?? true,
  'page.searchTitle': '',
  'page.searchText': '',
  'page.author': page.author,
  'page.day': '',
  'page.language': page.language,
});

/** Title and words under it as a search engine would show them. */
export const searchResultOf = (content: PageContent) => ({
  title: textOf(content, 'page.searchTitle').trim() || textOf(content, 'title'),
  text: textOf(content, 'page.searchText').trim() || textOf(content, 'summary'),
});
