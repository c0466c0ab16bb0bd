import type { Section } from '@/core/inventory';

/** What surrounds every screen of the Room, and its first page. It has no door; everybody who signs in has it. */
export const frame: Section = {
  id: 'frame',
  name: 'Today',
  purpose: 'Your first page: what needs doing.',
  icon: 'house',
  care: 'everyday',
  face: 'frame',
  home: 'today',
  permissions: [{ id: 'visits.view', name: 'see how many people visit the website', care: 'everyday', placed: false }],
  screens: [
    { id: 'today', name: 'Today', path: '/room' },
    { id: 'tours', name: 'Tours', path: '/room/tours' },
  ],
  controls: [
    { id: 'frame.ask', name: 'Where do I…?', screen: 'today', description: 'Finds tasks and doors in plain words.' },
    {
      id: 'frame.website',
      name: 'See the website',
      screen: 'today',
      description: 'Shows the website as visitors see it.',
    },
    {
      id: 'frame.tours',
      name: 'Tours',
      screen: 'today',
      said: ['show me around', 'show me how', 'help'],
      description: 'All your tours, and which you have taken.',
    },
    { id: 'frame.person', name: 'You', screen: 'today', description: 'Who you are signed in as, and the way out.' },
    { id: 'today.tasks', name: 'Your tasks', screen: 'today', description: 'The jobs you are here for.' },
    { id: 'tours.list', name: 'Your tours', screen: 'tours', description: 'One tour for every task.' },
  ],
  widgets: [
    {
      id: 'visits.week',
      name: 'Visits this week',
      description: 'How many people came to the website, day by day.',
      needs: 'visits.view',
    },
  ],
  tasks: [
    {
      id: 'frame.leave',
      name: 'Sign out',
      purpose: 'Leave the back office, so that nobody else works in your name.',
      said: ['log out', 'log off', 'leave', 'go home', 'stop working', 'exit'],
      needs: [],
      screen: 'today',
      moves: [
        {
          control: 'frame.person',
          await: 'press',
          title: 'Your name holds the way out',
          text: 'Press your name, then “Sign out”. Everything you typed is kept for when you come back.',
        },
      ],
    },
    {
      id: 'frame.website',
      name: 'Look at the website as visitors see it',
      purpose: 'Check what is really out there.',
      said: ['view site', 'live site', 'public', 'visitors', 'front'],
      needs: [],
      screen: 'today',
      moves: [
        {
          control: 'frame.website',
          await: 'see',
          title: 'The website is one press away',
          text: '“See the website” opens it in a new tab. What you see there is exactly what visitors see now; drafts are not in it.',
        },
      ],
    },
  ],
};
