import { isOwnAddress, isSlug, OWN_ADDRESS_WORDS, SLUG_WORDS } from '@/core/content';
import { mustHavePanel } from '@/server/items/allowed';
import { tryAddress } from '@/server/tree/addresses';
import { endpoint } from '@/server/gate/endpoint';

/** The address a page would have, why it cannot, and how many addresses would change. */
export const GET = endpoint('GET /api/pages/[id]/address', {
  needs: 'page.edit',
  on: 'page',
  run: async ({ tx, access, id, thing, query }) => {
    mustHavePanel(access, thing, 'address');
    const asked = query;
    const [slug, own] = [asked.get('slug') ?? '', asked.get('own') ?? ''];
    const fault =
      slug !== '' && !isSlug(slug) ? SLUG_WORDS : own !== '' && !isOwnAddress(own) ? OWN_ADDRESS_WORDS : null;
    return fault
      ? { address: null, fault, changes: 0 }
      : tryAddress(tx, access.site.id, id, { slug, ownAddress: own || null });
  },
});
