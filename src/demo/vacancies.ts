import type { PageContent } from '@/core/content';
import { dayKey } from '@/core/words';
import { doc, h2, list, p } from './write';

export interface DemoVacancy {
  /** Key of the page it lies on, and who wrote it, by first name. */
  page: string;
  author: string;
  content: PageContent;
  /** Whether visitors see it; else it is a draft. */
  live: boolean;
}

const DAY_MS = 86_400_000;

/** Larkhaven's open jobs; their last days count from today. */
export const demoVacancies = (at: Date): DemoVacancy[] => {
  const inDays = (days: number) => dayKey(new Date(at.getTime() + days * DAY_MS), 'Europe/London');
  const apply = { href: 'mailto:jobs@larkhaven.example', words: 'Write to us' };
  return [
    {
      page: 'jobs',
      author: 'Juno',
      live: true,
      content: {
        title: 'Deckhand on the Tern',
        summary: 'Lines, ramps and passengers, from the first boat to the last.',
        terms: 'full',
        closes: inDays(34),
        apply,
        body: doc(
          p('You make the boat fast, count people on and off, and know where everybody sits who needs a hand.'),
          h2('What you bring'),
          list('You can swim.', 'You are friendly before seven in the morning.', 'Knots can be learned here.'),
        ),
      },
    },
    {
      page: 'jobs',
      author: 'Juno',
      live: false,
      content: {
        title: 'Electrician for the chargers',
        summary: 'Keeps the batteries at South Quay full overnight.',
        terms: 'part',
        closes: '',
        apply,
        body: doc(p('Two nights a week, with the harbour to yourself.')),
      },
    },
    {
      page: 'cafe',
      author: 'Oskar',
      live: true,
      content: {
        title: 'Kitchen hand for the summer',
        summary: 'Soup, sandwiches and a window on the sea.',
        terms: 'season',
        closes: inDays(61),
        apply,
        body: doc(p('May to September, four days a week. Cake is included as long as it lasts.')),
      },
    },
  ];
};
