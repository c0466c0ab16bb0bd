import type { Place } from '@/core/access';
import type { DemoPage } from './page';
import { HOME } from './pages';

/** Every page of the demo as a place, with its key as id: for what is computed without a database. */
export function demoPlaces(): Place[] {
  const places: Place[] = [];
  const visit = (page: DemoPage, above: readonly string[]) => {
    const path = [...above, page.key];
    places.push({ path, layout: page.layout, state: 'published', author: null });
    for (const below of page.below ?? []) visit(below, path);
  };
  visit(HOME, []);
  return places;
}
