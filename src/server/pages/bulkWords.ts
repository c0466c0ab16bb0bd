import type { RetirePreview } from '@/core/wire';
import type { Tx } from '../db/client';
import type { Access } from '../gate/access';
import { previewMove } from './move';
import type { SiteLinks } from './retire';

/** What was done about navigation. */
export const shownInWords = (shown: boolean) => (shown ? 'Shown in navigation' : 'Left out of navigation');
/** Some things by name: the first of them, and how many more there are. */
const few = (names: readonly string[]): string =>
  names.length <= 3 ? names.join(', ') : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
const linksInWords = (links: readonly { title: string }[], what: string): string[] =>
  links.length === 0 ? [] : [`${what} ${few([...new Set(links.map((link) => `“${link.title}”`))])}.`];

/** What comes with a move, as a single one tells it. */
export async function notesOfMove(
  tx: Tx,
  access: Access,
  move: { page: number; parent: number; index: number },
  known: SiteLinks,
): Promise<string[]> {
  const { addresses, below, visitors, links, lists, lost } = await previewMove(tx, access, move, known.links);
  // That of the page itself is the shortest.
  const [first] = addresses.toSorted((a, b) => a.from.length - b.from.length);
  return [
    ...(below > 0 ? [`With ${below} below.`] : []),
    ...(first
      ? [
          `${addresses.length === 1 ? 'Its address changes' : `${addresses.length} addresses change`}: ${first.from} → ${first.to}${addresses.length > 1 ? ' …' : ''}; the old ${addresses.length === 1 ? 'one leads' : 'ones lead'} there.`,
        ]
      : []),
    ...lists,
    ...(lost.length > 0 ? [`There you may no longer ${few(lost)}.`] : []),
    ...(visitors ? [visitors] : []),
    ...linksInWords(links, 'Links that follow by themselves stand on'),
  ];
}

/** What comes with taking a page away, as a single time tells it. */
export const notesOfRetiring = ({ below, also, drafts, links }: RetirePreview): string[] => [
  ...(below > 0 ? [`With ${below} below.`] : []),
  ...also.map((what) => `${what} goes along.`),
  ...(drafts > 0 ? [`${drafts === 1 ? 'One draft is' : `${drafts} drafts are`} not published yet.`] : []),
  ...linksInWords(links, 'Links will lead nowhere on'),
];
