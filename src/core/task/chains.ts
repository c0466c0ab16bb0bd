import type { Place } from '../access';
import type { PermissionId, TaskThing } from '../inventory';
import type { TaskFacts } from './facts';

/** Whether the things a task goes through, beginning at a page, carry all it needs. */
export type Chain = (place: Place) => boolean;

/** Pages below which, themselves included, something is forbidden. */
function aboveForbidden(facts: TaskFacts, permission: PermissionId): (place: Place) => boolean {
  let above: Set<string> | undefined;
  return (place) =>
    (above ??= new Set(
      facts.places.filter((other) => !facts.may(permission, other)).flatMap((other) => other.path),
    )).has(place.path.at(-1) ?? '');
}

/**
 * For each kind of thing a task can be about, what has to hold together:
 * - a page that is written in: all of it on that page, also once what was typed has made it a draft;
 * - a new page: making one below a page, the rest on the page made there;
 * - a page that is moved: itself and all below it, and the page it lies below;
 * - a page that is taken away: itself and all below it; never the first page;
 * - something that lies on a page, which is its maker's own; one that is there may be anybody's; of items the same, as
 *   drafts;
 * - a draft of somebody else's that waits on a page.
 */
export function chainsOf(thing: TaskThing, needs: readonly PermissionId[], facts: TaskFacts): Chain {
  const { may, person } = facts;
  const all = (place: Place, list: readonly PermissionId[] = needs) =>
    list.every((permission) => may(permission, place));
  switch (thing) {
    case 'page':
      return (place) =>
        (!needs.includes('page.edit') || may('page.edit', place)) &&
        (!needs.includes('page.view') || may('page.view', place)) &&
        all({ ...place, state: 'draft' });
    case 'newPage': {
      const rest = needs.filter((permission) => permission !== 'page.create');
      return (place) =>
        may('page.create', place) &&
        [...facts.inventory.layouts.keys()].some((layout) => {
          const made: Place = { path: [...place.path, 'new'], layout, state: 'draft', author: person };
          return all(made, rest) && (!rest.includes('page.edit') || may('page.edit', made, 'page.layout'));
        });
    }
    case 'movedPage': {
      const isForbidden = aboveForbidden(facts, 'page.arrange');
      const byId = new Map(facts.places.map((place) => [place.path.at(-1), place]));
      return (place) => {
        const parent = byId.get(place.path.at(-2) ?? '');
        return parent !== undefined && all(place) && may('page.arrange', parent) && !isForbidden(place);
      };
    }
    case 'retiredPage': {
      const isForbidden = aboveForbidden(facts, 'page.retire');
      return (place) => place.path.length > 1 && all(place) && !isForbidden(place);
    }
    case 'newOnPage':
      return (place) => all({ ...place, author: person });
    case 'onPage':
      return (place) => all({ ...place, author: person }) || all({ ...place, author: null });
    case 'newItem':
      return (place) => all({ ...place, author: person, state: 'draft' });
    case 'item':
      return (place) => [person, null].some((author) => all({ ...place, author, state: 'draft' }));
    case 'review':
      return (place) => all({ ...place, state: 'waiting' });
  }
}
