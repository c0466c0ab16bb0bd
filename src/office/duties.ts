import type { Section } from '@/core/inventory';

export const dutiesSection: Section = {
  id: 'duties',
  name: 'Duties',
  purpose: 'What has to be looked after, whose turn it is and until when: once, or again and again.',
  icon: 'duties',
  care: 'care',
  face: 'door',
  home: 'duties.list',
  permissions: [
    { id: 'duty.view', name: 'see everybody’s duties', care: 'care', placed: false },
    { id: 'duty.manage', name: 'give duties, hand them over and take them away', care: 'care', placed: false },
  ],
  screens: [{ id: 'duties.list', name: 'Duties', path: '/room/duties', needs: 'duty.view' }],
  controls: [
    {
      id: 'duties.list.new',
      name: 'New duty',
      screen: 'duties.list',
      said: ['remind somebody', 'to do', 'hand over', 'every month', 'upkeep'],
      description: 'Opens the form: what, whose turn, until when, how often.',
      needs: 'duty.manage',
    },
    {
      id: 'duties.list.open',
      name: 'To be looked after',
      screen: 'duties.list',
      description: 'What is open, by the day it is due; ticked off by whose turn it is or who gave it.',
    },
    {
      id: 'duties.list.print',
      name: 'Print this sheet',
      screen: 'duties.list',
      said: ['hand-over sheet'],
      description: 'The list on paper, to be handed over.',
    },
  ],
  widgets: [
    {
      id: 'duties.mine',
      name: 'Your turn',
      description: 'What they were asked to look after, to be ticked off in place or given back.',
      takes: ['most'],
      sizes: ['narrow', 'wide'],
      empty: 'Nothing waits for you.',
      queries: 1,
    },
  ],
  tasks: [
    {
      id: 'duties.give',
      name: 'Ask somebody to look after something',
      purpose: 'Say what, whose turn it is and until when. They see it on Today.',
      said: ['hand over', 'remind', 'to do', 'whose turn', 'upkeep', 'every month', 'every year', 'check again'],
      needs: ['duty.view', 'duty.manage'],
      screen: 'duties.list',
      moves: [
        {
          control: 'duties.list.new',
          await: 'press',
          until: ['POST /api/duties'],
          title: 'Begin with New duty',
          text: 'Say what has to be done, choose whose turn it is, and press Give it. They see it on Today and get a mail.',
        },
        {
          control: 'duties.list.open',
          await: 'see',
          title: 'Here it stands until it is done',
          text: 'Whoever it is for ticks it off, or you do. What comes again is due next by itself.',
        },
      ],
    },
  ],
};
