import { and, desc, eq } from 'drizzle-orm';
import { among } from '../db/among';
import { addressOf, hrefsIn, ownPath, thingOf, withHrefs, type LinkedThing } from '@/core/content';
import { findAddresses } from '../tree/addresses';
import { maySee } from '../tree/naming';
import { findSiteMap } from '../tree/tree';
import type { Tx } from '../db/client';
import { media, redirects, references } from '../db/schema';
import type { Access } from '../gate/access';

const MEDIA = '/media/';
const restOf = (href: string): string => /[?#].*$/.exec(href)?.[0] ?? '';
const things = (value: unknown) => hrefsIn(value).flatMap((href) => thingOf(href) ?? []);

/** What the links of an item's versions and draft name: whoever writes on from one of them brings these along. */
const thingsOfVersions = async (tx: Tx, itemId: number): Promise<LinkedThing[]> =>
  (
    await tx
      .selectDistinct({ kind: references.kind, id: references.target })
      .from(references)
      .where(eq(references.itemId, itemId))
  ).flatMap(({ kind, id }) => (kind === 'page' || kind === 'picture' ? [{ kind, id, rest: '' }] : []));

/** Where the things are that some links name; those that are not there any more are left out. */
async function whereAre(tx: Tx, siteId: number, links: readonly LinkedThing[]): Promise<Map<string, string>> {
  const at = new Map<string, string>();
  const idsOf = (kind: string) => [...new Set(links.filter((link) => link.kind === kind).map((link) => link.id))];
  const pages = idsOf('page');
  const addressed = await findAddresses(tx, siteId, pages.map(Number));
  for (const id of pages) if (addressed.has(id)) at.set(`page:${id}`, addressOf(addressed, id));
  const pictures = idsOf('picture').map(Number);
  if (pictures.length > 0)
    for (const { id, hash } of await tx
      .select({ id: media.id, hash: media.hash })
      .from(media)
      .where(and(eq(media.siteId, siteId), among(media.id, pictures))))
      at.set(`picture:${id}`, MEDIA + hash);
  return at;
}

/**
 * What is kept, with the addresses its links have now: as visitors and the writing area get it. A link to what is not
 * there any more goes on naming it.
 */
export async function withAddresses<T>(tx: Tx, siteId: number, kept: T): Promise<T> {
  const links = things(kept);
  if (links.length === 0) return kept;
  const at = await whereAre(tx, siteId, links);
  return withHrefs(kept, (href) => {
    const thing = thingOf(href);
    const address = thing && at.get(`${thing.kind}:${thing.id}`);
    return thing && address !== undefined ? address + thing.rest : href;
  });
}

/** Leads to nothing there ever was. */
const NOTHING = '0';

/**
 * What somebody wrote, as it is kept: links to addresses of this website name what they lead to, so that they go on
 * leading there. Found are what `known`, the item's content so far, and any of its versions lead to, and pages somebody
 * may know of; a name that is in none of them (of something gone, taken from another text, or a number tried) names
 * nothing, or it would tell the address.
 */
export async function withNames<T>(
  tx: Tx,
  access: Access,
  itemId: number,
  written: T,
  known: readonly unknown[],
): Promise<T> {
  const hrefs = hrefsIn(written);
  const paths = [...new Set(hrefs.map(ownPath).filter((path) => path !== undefined))];
  if (paths.length === 0 && !hrefs.some(thingOf)) return written;
  const before = [...known.flatMap(things), ...(await thingsOfVersions(tx, itemId))];
  const at = await whereAre(tx, access.site.id, before);
  const named = new Map([...at].map(([name, address]) => [address, name]));
  const isKnown = new Set(before.map(({ kind, id }) => `${kind}:${id}`));
  const fresh = paths.filter((path) => !named.has(path));
  if (fresh.length > 0) {
    const { byAddress, byId } = await findSiteMap(tx, access.site.id);
    const sees = maySee(access);
    const moved = await tx
      .select({ address: redirects.address, page: redirects.pageId })
      .from(redirects)
      .where(and(eq(redirects.siteId, access.site.id), among(redirects.address, fresh)));
    const hashes = fresh.flatMap((path) => (path.startsWith(MEDIA) ? [path.slice(MEDIA.length)] : []));
    const pictures =
      hashes.length === 0
        ? []
        : await tx
            .select({ id: media.id, hash: media.hash })
            .from(media)
            .where(and(eq(media.siteId, access.site.id), among(media.hash, hashes)))
            .orderBy(desc(media.id));
    for (const { id, hash } of pictures) named.set(MEDIA + hash, `picture:${id}`);
    const name = (path: string, page = byAddress.get(path)) => {
      if (page && sees(page)) named.set(path, `page:${page.id}`);
    };
    for (const { address, page } of moved) name(address, byId.get(String(page)));
    // A page that has the address now comes before one that had it.
    for (const path of fresh) name(path);
  }
  return withHrefs(written, (href) => {
    const thing = thingOf(href);
    if (thing) return isKnown.has(`${thing.kind}:${thing.id}`) ? href : `${thing.kind}:${NOTHING}`;
    const name = named.get(ownPath(href) ?? '');
    return name === undefined ? href : name + restOf(href);
  });
}
