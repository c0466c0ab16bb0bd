/** A page as far as its address is concerned. The root's slug is empty. */
export interface Addressed {
  id: string;
  parent: string | null;
  slug: string;
  /** A whole path of its own, which does not follow the page above. */
  ownAddress?: string | null;
}

/**
 * The path of a page's web address: its own, or that of the page above and its slug. The root is `/`. A page of its own
 * address takes those below it along.
 */
export function addressOf(pages: ReadonlyMap<string, Addressed>, id: string): string {
  const slugs: string[] = [];
  let own = '';
  for (let page = pages.get(id); page && page.parent !== null; page = pages.get(page.parent)) {
    if (page.ownAddress) {
      own = page.ownAddress;
      break;
    }
    slugs.unshift(encodeURIComponent(page.slug));
  }
  return `${own}/${slugs.join('/')}`.replace(/(.)\/$/, '$1');
}

const SLUG = /^[a-z0-9]+(?:-[a-z0-9]+)*$/;
export const SLUG_WORDS = 'An address is made of small letters, digits and hyphens between them, like “port-ennis”.';
/**
 * Whether text can be a part of an address as it is: unreserved characters of RFC 3986, section 2.3, of which we use
 * those that are easy to say. At most 80.
 */
export const isSlug = (text: string): boolean => text.length <= 80 && SLUG.test(text);

export const OWN_ADDRESS_WORDS =
  'An address of its own begins with a slash and has parts of small letters, digits and hyphens, like “/timetable/winter”.';
/**
 * Whether text can be the whole path of a page: parts as `isSlug`, each behind a slash (RFC 3986, section 3.3,
 * `path-absolute`).
 */
export const isOwnAddress = (text: string): boolean =>
  text.length <= 200 && text.startsWith('/') && text.slice(1).split('/').every(isSlug);

/** First parts of addresses that the application itself answers. */
export const RESERVED = ['api', 'media', 'preview', 'room', 'search', 'set-up', 'sign-in', 'workshop'] as const;
export const isReserved = (address: string): boolean =>
  (RESERVED as readonly string[]).includes(address.split('/')[1] ?? '');

const LETTERS: Record<string, string> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', đ: 'd', ð: 'd', þ: 'th', ł: 'l', ı: 'i' };
/** A title as a part of an address: accents gone, other letters spelled out, the rest hyphens. May be empty. */
export const slugFrom = (title: string): string =>
  title
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[ßæœøđðþłı]/g, (letter) => LETTERS[letter] ?? '')
    .replace(/['’]/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 80)
    .replace(/^-+|-+$/g, '');

/** A slug that none of those taken is: the same with the first number that is free. */
export function freeSlug(wanted: string, taken: ReadonlySet<string>): string {
  const base = wanted || 'page';
  if (!taken.has(base)) return base;
  for (let n = 2; ; n++) if (!taken.has(`${base.slice(0, 75)}-${n}`)) return `${base.slice(0, 75)}-${n}`;
}

/**
 * Addresses that differ when some pages are changed: from, to, and whose. Pages that are not there afterwards are left
 * out.
 */
export function addressChanges(
  before: ReadonlyMap<string, Addressed>,
  after: ReadonlyMap<string, Addressed>,
): { page: string; from: string; to: string }[] {
  return [...before.keys()].flatMap((page) => {
    if (!after.has(page)) return [];
    const [from, to] = [addressOf(before, page), addressOf(after, page)];
    return from === to ? [] : [{ page, from, to }];
  });
}
