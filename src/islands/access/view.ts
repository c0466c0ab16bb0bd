import type { Extent } from '@/core/access';

/**
 * How somebody looks at the access map: kept in the address, so that another branch or day is looked at in the same
 * way.
 */
export interface MapView {
  find: string;
  by: 'permission' | 'section';
  section: string;
  only: '' | Extent;
}

/** The view an address asks for; what it does not say, or says oddly, is as at first. */
export function readView(asked: URLSearchParams): MapView {
  const only = asked.get('only');
  return {
    find: asked.get('find') ?? '',
    by: asked.get('by') === 'permission' ? 'permission' : 'section',
    section: asked.get('section') ?? '',
    only: only === 'yes' || only === 'some' || only === 'no' ? only : '',
  };
}

/** Writes a view into the address of the screen, without loading it anew. */
export function keepView({ by, ...view }: MapView): void {
  const url = new URL(location.href);
  for (const [name, value] of Object.entries({ ...view, by: by === 'section' ? '' : by })) {
    if (value === '') url.searchParams.delete(name);
    else url.searchParams.set(name, value);
  }
  history.replaceState(history.state, '', url);
}
