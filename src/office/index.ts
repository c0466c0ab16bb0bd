import { makeInventory, type Section } from '@/core/inventory';
import { activity } from './activity';
import { duties } from './duties';
import { frame } from './frame';
import { notices } from './notices';
import { pages } from './pages';
import { people } from './people';
import { pictures } from './pictures';
import { review } from './review';
import { vacancies } from './vacancies';
import { workshop } from './workshop';

const doors: Section[] = [pages, review, notices, vacancies, pictures, duties, people, activity];

/** The frame also holds the doors themselves, one control a section. */
const framed: Section = {
  ...frame,
  controls: [
    ...frame.controls,
    ...doors.map((s) => ({ id: `door.${s.id}`, name: s.name, screen: 'today', description: s.purpose })),
  ],
};

/** The inventory of this back office: the single list of what exists. */
export const inventory = makeInventory([framed, ...doors, workshop]);
export { getLayout, layouts } from './layouts';
