import type { Place } from '@/core/access';
import type { Access } from '../gate/access';
import { mayOn, mayVisit } from '../gate/authorize';
import { byIdOf, liveNameOf, type PageFacts } from './tree';

/**
 * Whether somebody may know of a page: they may look at it in the back office, or it is on the website and they may
 * visit it.
 */
export function maySee(access: Access): (page: { live: boolean; place: Place }) => boolean {
  const mayView = mayOn(access, 'page.view');
  return (page) => mayView(page.place) || (page.live && mayVisit(access, page.place));
}

/** What pages are called to somebody; one they may not know of has no name. */
export function pageNamer(access: Access, pages: readonly PageFacts[]): (id: string) => string {
  const sees = maySee(access);
  const byId = byIdOf(pages);
  return (id) => {
    const page = byId.get(id);
    return page === undefined ? 'a page that is gone' : sees(page) ? liveNameOf(page) : 'a page you do not see';
  };
}
