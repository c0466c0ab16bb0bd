import type { ReactNode } from 'react';
import type { ListedPage } from '@/core/content';
import type { PageFilter } from '@/core/lists';
import { sayTime, type Calendar } from '@/core/words';
import { STATES } from './model';
import type { Choice } from './PageFilters';

interface Column {
  /** What the server sorts by; null where it does not. */
  sort: PageFilter['sort'] | null;
  width: string;
  cell: (page: ListedPage, by: { languages: readonly Choice[]; calendar: Calendar; now: string }) => ReactNode;
}

/** How the columns of the inventory look. */
export const COLUMNS: ReadonlyMap<string, Column> = new Map<string, Column>([
  [
    'state',
    {
      sort: 'state',
      width: '11rem',
      cell: (page) => (
        <span className="flex flex-wrap gap-1">
          <span className={`pill ${STATES[page.state].look}`}>{STATES[page.state].short}</span>
          {!page.inNavigation && <span className="pill pill-plain">not in navigation</span>}
        </span>
      ),
    },
  ],
  ['layout', { sort: 'layout', width: '9rem', cell: (page) => page.layout }],
  ['author', { sort: 'author', width: '9rem', cell: (page) => page.author ?? 'Nobody' }],
  [
    'changed',
    {
      sort: 'changed',
      width: '11rem',
      cell: (page, { calendar, now }) => sayTime(new Date(page.changedAt), calendar, new Date(now)),
    },
  ],
  ['address', { sort: null, width: '13rem', cell: (page) => page.address }],
  [
    'language',
    {
      sort: null,
      width: '7rem',
      cell: (page, { languages }) => languages.find((language) => language.id === page.language)?.name ?? page.language,
    },
  ],
]);
