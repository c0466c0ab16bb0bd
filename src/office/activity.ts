import type { Section } from '@/core/inventory';

export const activitySection: Section = {
  id: 'activity',
  name: 'Activity',
  purpose: 'What was done, by whom and when. Nothing can be taken out of it.',
  icon: 'scroll',
  care: 'care',
  face: 'door',
  home: 'activity.list',
  permissions: [{ id: 'activity.view', name: 'see what everybody did', care: 'care', placed: false }],
  screens: [{ id: 'activity.list', name: 'Activity', path: '/room/activity', needs: 'activity.view' }],
  controls: [
    { id: 'activity.list.all', name: 'What was done', screen: 'activity.list', description: 'Newest first.' },
    {
      id: 'activity.list.filter',
      name: 'Find in the activity',
      screen: 'activity.list',
      description: 'Cuts the list down: by words, by who did it, by what was done, by days.',
    },
    {
      id: 'activity.list.csv',
      name: 'As CSV',
      screen: 'activity.list',
      description: 'What is shown, as a table for a spreadsheet.',
    },
  ],
  tasks: [
    {
      id: 'activity.see',
      name: 'Find out who changed something',
      purpose: 'See what happened to the website lately.',
      said: [
        'who touched',
        'what happened',
        'who was it',
        'log',
        'history',
        'who did',
        'audit',
        'changes',
        'yesterday',
      ],
      needs: ['activity.view'],
      screen: 'activity.list',
      moves: [
        {
          control: 'activity.list.all',
          await: 'see',
          title: 'Newest first',
          text: 'Each line says who did what and when. The list only grows; nobody can take a line out.',
        },
      ],
    },
  ],
};
