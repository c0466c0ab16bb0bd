import type { Section } from '@/core/inventory';
import { editControls } from '../editing';
import { vacancyLayouts } from './layouts';

const layouts = [...vacancyLayouts.values()];
const own = { care: 'everyday', placed: true, ownAuthor: true } as const;

export const vacanciesSection: Section = {
  id: 'vacancies',
  name: 'Vacancies',
  purpose: 'Jobs that are open, each on the page it belongs to, until the last day to apply.',
  icon: 'job',
  care: 'everyday',
  face: 'door',
  home: 'vacancies.list',
  items: [{ id: 'vacancy', one: 'vacancy', many: 'vacancies', screen: 'vacancies.edit', layouts, settings: [] }],
  permissions: [
    { id: 'vacancy.view', name: 'see all vacancies', ...own },
    { id: 'vacancy.create', name: 'begin vacancies', ...own },
    { id: 'vacancy.edit', name: 'change vacancies', ...own },
    { id: 'vacancy.send', name: 'send vacancies for a second look', ...own },
    { id: 'vacancy.publish', name: 'publish vacancies without a second look', ...own, care: 'care' },
    { id: 'vacancy.retire', name: 'take vacancies down, delete them and bring them back', ...own },
  ],
  screens: [
    { id: 'vacancies.list', name: 'Vacancies', path: '/room/vacancies', needs: 'vacancy.view' },
    { id: 'vacancies.edit', name: 'A vacancy', path: '/room/vacancies/[id]', needs: 'vacancy.view', on: 'vacancy' },
  ],
  controls: [
    {
      id: 'vacancies.list.list',
      name: 'All vacancies',
      screen: 'vacancies.list',
      description: 'Every vacancy you may see, with its page, its last day and how it stands.',
    },
    {
      id: 'vacancies.list.make',
      name: 'New vacancy',
      screen: 'vacancies.list',
      said: ['new job', 'hire somebody', 'we need staff'],
      description: 'Begins a vacancy that visitors do not see yet.',
      needs: 'vacancy.create',
    },
    {
      id: 'vacancies.form.title',
      name: 'Which job?',
      screen: 'vacancies.list',
      description: 'What the job is called.',
      needs: 'vacancy.create',
      appears: 'after “New vacancy” is pressed',
    },
    {
      id: 'vacancies.form.page',
      name: 'On which page?',
      screen: 'vacancies.list',
      description: 'The page visitors read it on.',
      needs: 'vacancy.create',
      appears: 'after “New vacancy” is pressed',
    },
    {
      id: 'vacancies.form.send',
      name: 'Begin it',
      screen: 'vacancies.list',
      description: 'Opens the vacancy to be written.',
      needs: 'vacancy.create',
      appears: 'after “New vacancy” is pressed',
    },
    {
      id: 'vacancies.list.retire',
      name: 'Take down',
      screen: 'vacancies.list',
      said: ['the job is taken', 'filled', 'close a vacancy'],
      description: 'Visitors do not see it any more; it can be put back.',
      needs: 'vacancy.retire',
      appears: 'while visitors see a vacancy',
    },
    ...editControls({ type: 'vacancy', one: 'vacancy', screen: 'vacancies.edit', layouts }),
    { id: 'vacancies.edit.title', name: 'Job', screen: 'vacancies.edit', description: 'What the job is called.' },
    {
      id: 'vacancies.edit.closes',
      name: 'Apply until',
      screen: 'vacancies.edit',
      description: 'The last day; the day after, visitors do not see the vacancy any more.',
    },
  ],
  widgets: [
    {
      id: 'vacancies.open',
      name: 'Open vacancies',
      description: 'What visitors can apply for, the one that closes first at the top.',
      needs: 'vacancy.view',
      takes: ['most', 'branch'],
      sizes: ['narrow', 'wide'],
      empty: 'No vacancy is open. Visitors see none.',
      queries: 2,
    },
  ],
  tasks: [
    {
      id: 'vacancies.write',
      name: 'Write a vacancy',
      purpose: 'Tell visitors of a job that is open. Somebody else reads it before they do.',
      said: [
        'job advert',
        'job ad',
        'hiring',
        'we need people',
        'recruit',
        'new colleague wanted',
        'staff wanted',
        'position',
        'apprentice',
      ],
      needs: ['vacancy.create', 'vacancy.edit', 'vacancy.send'],
      thing: 'newItem',
      screen: 'vacancies.list',
      moves: [
        {
          control: 'vacancies.list.make',
          await: 'press',
          title: 'Begin with New vacancy',
          text: 'Nothing is on the website before somebody publishes it.',
        },
        {
          control: 'vacancies.form.title',
          await: 'type',
          title: 'Name the job',
          text: 'As people look for it: “Deckhand”, “Kitchen hand for the summer”.',
        },
        {
          control: 'vacancies.form.send',
          await: 'press',
          until: ['POST /api/vacancies'],
          title: 'Begin it',
          text: 'The vacancy opens, to be written.',
        },
        {
          control: 'vacancies.edit.closes',
          await: 'type',
          title: 'Give it a last day',
          text: 'Until then people can apply. It leaves the website by itself.',
        },
        {
          control: 'vacancies.edit.body',
          await: 'see',
          title: 'Say what the work is',
          text: 'What somebody does all day, what they need for it, and what they get. Everything you type is kept.',
        },
        {
          control: 'vacancies.edit.send',
          await: 'press',
          until: ['POST /api/items/[id]/send', 'POST /api/items/[id]/publish'],
          title: 'Send it for a second look',
          text: 'Somebody else reads it and publishes it.',
        },
      ],
    },
  ],
};
