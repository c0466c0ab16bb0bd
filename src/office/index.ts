import { makeInventory, type Section } from '@/core/inventory';
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

/** The inventory of this back office: the single list of what exists. */
export const inventory = makeInventory([framed, ...doors, workshopSection]);
export { getLayout, layouts } from './layouts';
