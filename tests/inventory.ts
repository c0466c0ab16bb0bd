import { getEntry } from '../src/core/inventory';
import { DEMO_SITE } from '../src/demo/site';
import { inventoryOf } from '../src/office';

/** The inventory of the demo's site. */
export const inventory = inventoryOf(DEMO_SITE);
export const { layouts } = inventory;
export const getLayout = (id: string) => getEntry(layouts, id);
