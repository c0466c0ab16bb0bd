import type { Layout, Layouts } from '@/core/content';

/** The one form a vacancy has. */
const vacancy: Layout = {
  id: 'vacancy',
  name: 'Vacancy',
  purpose: 'A job that is open.',
  fields: [
    { id: 'title', kind: 'short', name: 'Job', hint: '“Deckhand”, not “We are hiring”.', max: 120, required: true },
    { id: 'summary', kind: 'long', name: 'In a sentence', hint: 'What it is about, shown under the job.', max: 300 },
    {
      id: 'terms',
      kind: 'choice',
      name: 'How much work',
      options: [
        { id: 'full', name: 'Full time' },
        { id: 'part', name: 'Part time' },
        { id: 'season', name: 'For a season' },
      ],
    },
    {
      id: 'closes',
      kind: 'day',
      name: 'Apply until',
      hint: 'The day after, visitors do not see it any more.',
      required: true,
    },
    { id: 'apply', kind: 'link', name: 'How to apply' },
    { id: 'body', kind: 'rich', name: 'The work' },
  ],
};

export const vacancyLayouts: Layouts = new Map([[vacancy.id, vacancy]]);
