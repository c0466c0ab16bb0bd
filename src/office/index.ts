import { makeInventory, type Inventory, type Section } from '@/core/inventory';
import { activitySection } from './activity';
import { dutiesSection } from './duties';
import { frameSection } from './frame';
import { noticesSection } from './notices';
import { pagesSection } from './pages';
import { peopleSection } from './people';
import { picturesSection } from './pictures';
import { reviewSection } from './review';
import { vacanciesSection } from './vacancies';
import { workshopSection } from './workshop';

const doors: Section[] = [
  pagesSection,
  reviewSection,
  noticesSection,
  vacanciesSection,
  picturesSection,
  dutiesSection,
  peopleSection,
  activitySection,
];

/** The frame also holds the doors themselves, one control a section. */
const framed: Section = {
  ...frameSection,
  controls: [
    ...frameSection.controls,
    ...doors.map((s) => ({ id: `door.${s.id}`, name: s.name, screen: 'today', description: s.purpose })),
  ],
};

/** What of a site its inventory depends on. */
export interface SiteFacts {
  timeZone: string;
}

/** No more of a site than that, to be handed on. */
export const siteFactsOf = ({ timeZone }: SiteFacts): SiteFacts => ({ timeZone });

const known = new Map<string, Inventory>();

/** The inventory of a site's back office: the single list of what exists there. The same object for the same facts. */
export function inventoryOf({ timeZone }: SiteFacts): Inventory {
  let inventory = known.get(timeZone);
  if (!inventory) known.set(timeZone, (inventory = makeInventory([framed, ...doors, workshopSection], { timeZone })));
  return inventory;
}
