import type { Section } from '@/core/inventory';

export const peopleSection: Section = {
  id: 'people',
  name: 'People',
  purpose: 'Who can sign in, with which role, on which branch, until when.',
  icon: 'users',
  care: 'keyholders',
  face: 'door',
  home: 'people.list',
  permissions: [
    { id: 'person.view', name: 'see who can sign in', care: 'care', placed: false },
    { id: 'person.manage', name: 'invite people, pause them and give them roles', care: 'keyholders', placed: false },
  ],
  screens: [
    { id: 'people.list', name: 'People', path: '/room/people', needs: 'person.view' },
    { id: 'people.outbox', name: 'Outbox', path: '/room/people/outbox', needs: 'person.manage' },
  ],
  controls: [
    {
      id: 'people.list.find',
      name: 'Find somebody',
      screen: 'people.list',
      description: 'Shortens the list to names, mail addresses and roles that hold what you type.',
    },
    {
      id: 'people.list.all',
      name: 'Who can sign in',
      screen: 'people.list',
      description: 'Everybody with their roles, branch and dates.',
    },
    {
      id: 'people.list.invite',
      name: 'Invite somebody',
      screen: 'people.list',
      description: 'Makes an account and a one-time link for its password.',
      needs: 'person.manage',
    },
    {
      id: 'people.list.import',
      name: 'Read from a file',
      screen: 'people.list',
      description: 'Invites many at once, after telling what would happen.',
      needs: 'person.manage',
    },
    { id: 'people.outbox.list', name: 'Mails', screen: 'people.outbox', description: 'What would have been mailed.' },
  ],
  tasks: [
    {
      id: 'people.invite',
      name: 'Invite somebody to work on the website',
      purpose: 'Give a new colleague an account with just the role they need.',
      said: [
        'give access',
        'work here',
        'volunteer',
        'new employee',
        'new colleague',
        'account',
        'add user',
        'new starter',
        'seasonal',
        'invite',
        'access',
      ],
      needs: ['person.view', 'person.manage'],
      screen: 'people.list',
      moves: [
        {
          control: 'people.list.invite',
          await: 'press',
          until: ['POST /api/people'],
          title: 'Invite somebody',
          text: 'Say who it is, which role they need, on which part of the site, and until when. You get a link to hand to them; nobody else learns their password.',
        },
      ],
    },
    {
      id: 'people.see',
      name: 'See who works on the website',
      purpose: 'Find out whom to ask about a page.',
      said: ['colleagues', 'team', 'contact', 'who', 'users', 'accounts'],
      needs: ['person.view'],
      screen: 'people.list',
      moves: [
        {
          control: 'people.list.all',
          await: 'see',
          title: 'Everybody is listed',
          text: 'Each line names a person, what they are here for and the part of the site they look after.',
        },
      ],
    },
  ],
};
