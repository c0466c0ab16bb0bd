import { boardOf, type WidgetSettings } from '@/core/dashboard';
import { emptyPlan, emptyRole, type Plan } from '@/core/plan';
import { NO_FILTER } from '@/core/lists';
import { everythingOf, everyday, aids, uses, keyholderRole, allow, open } from './startPlan';
import type { Inventory } from '@/core/inventory';

/** What the office says to the harbour desk. */
const WORD: WidgetSettings['words'] = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Before a late boat goes on the website, ' },
        { type: 'text', text: 'ring the bridge', marks: [{ type: 'bold' }] },
        { type: 'text', text: '. If nobody answers, post the notice and ring again.' },
      ],
    },
  ],
};

/** Larkhaven's plan; `page` gives the id of a page by its key. */
export const demoPlan = (inventory: Inventory, page: (key: string) => string): Plan => ({
  ...emptyPlan(),
  words: [
    {
      at: 'door:notices',
      role: 'harbour-desk',
      text: {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [{ type: 'text', text: 'Say when the next boat goes, not why this one is late.' }],
          },
        ],
      },
    },
  ],
  screens: [
    {
      id: 'cafe-about',
      when: { roles: ['cafe-manager'], fields: ['pages.edit.about'] },
      then: { lock: 'The office chooses layout, author and date.' },
    },
    { id: 'cafe-result', when: { roles: ['cafe-manager'], fields: ['pages.edit.result'] }, then: { show: 'hidden' } },
    {
      id: 'cafe-note',
      when: { roles: ['cafe-manager'], fields: ['pages.edit.note'] },
      then: { label: 'What is new?', hint: 'One sentence, so that Priya knows where to look.' },
    },
  ],
  apart: [['second-look', 'newsroom']],
  toolbars: {
    sets: [
      everythingOf(inventory),
      everyday,
      { id: 'short', name: 'Short texts', add: ['bold', 'italic', 'bullets', ...aids], take: [] },
      {
        id: 'newsroom',
        name: 'Newsroom',
        base: 'everyday',
        add: [
          'numbers',
          'quote',
          'table',
          'table.rows',
          'picture',
          'picture.all',
          'highlight',
          'alert',
          'find',
          'full',
        ],
        take: [],
      },
    ],
    rules: [
      uses('keyholder', 'everything'),
      uses('harbour-desk', 'everyday'),
      uses('cafe-manager', 'short'),
      uses('newsroom', 'newsroom'),
    ],
  },
  roles: [
    keyholderRole(inventory),
    {
      ...emptyRole(),
      id: 'front-line',
      name: 'Front line',
      purpose: 'Whoever stands at a gate and must tell passengers something at once. Other roles build on it.',
      grants: [allow('notice.view'), allow('notice.post'), allow('notice.end')],
      tasks: [{ task: 'notices.post' }, { task: 'notices.end' }],
      doors: open('notices'),
      dashboard: boardOf(['notices.now']),
    },
    {
      ...emptyRole(),
      id: 'harbour-desk',
      name: 'Harbour desk',
      purpose: 'Posts sailing notices and keeps the harbour pages right.',
      extends: ['front-line'],
      grants: ['page.view', 'page.edit', 'page.send']
        .map((p) => allow(p, { branch: page('harbours') }))
        .concat(allow('visits.view'), allow('media.view')),
      tasks: [
        {
          task: 'notices.post',
          name: 'Post a sailing notice',
          said: ['late boat', 'boat is late', 'cancelled sailing', 'fog', 'storm', 'strike'],
        },
        { task: 'notices.end', name: 'End a sailing notice', said: ['boat sails again'] },
        {
          task: 'pages.words',
          name: 'Change the words on a harbour page',
          said: ['ticket office hours', 'pier works', 'parking'],
        },
        { task: 'pages.banner', name: 'Swap a harbour picture' },
        { task: 'pages.find' },
        { task: 'people.see', name: 'See whom to ask about a page' },
      ],
      doors: [
        { section: 'pages', state: 'open' },
        { section: 'notices', state: 'open', name: 'Sailing notices' },
        { section: 'pictures', state: 'look' },
        { section: 'people', state: 'closed' },
        { section: 'review', state: 'closed' },
        { section: 'activity', state: 'closed' },
      ],
      menu: {
        groups: [],
        shortcuts: [{ id: 'tides', name: 'Tide tables', to: 'https://tides.larkhaven.example/' }],
        hints: { notices: 'What visitors read across the top of the website' },
      },
      dashboard: boardOf(
        ['pages.unfinished', 'pages.coming', { widget: 'pages.lately', hold: 'offered' }],
        [
          { widget: 'notices.now', hold: 'fixed' },
          { widget: 'frame.word', hold: 'move', heading: 'From the office', settings: { words: WORD } },
          { widget: 'frame.whom', hold: 'offered' },
        ],
        ['visits.week', { widget: 'frame.way', hold: 'offered' }, { widget: 'frame.changed', hold: 'offered' }],
      ),
      tours: {
        'notices.post': {
          'door.notices': {
            title: 'Notices are behind this door',
            text: 'Open “Sailing notices” whenever a boat is late or cancelled. Nothing else on the website changes.',
          },
        },
      },
    },
    {
      ...emptyRole(),
      id: 'second-look',
      name: 'Second look',
      purpose: 'Reads what others wrote before visitors do.',
      grants: [allow('page.view'), allow('review.view'), allow('review.decide'), allow('notice.view')],
      tasks: [{ task: 'review.decide' }, { task: 'pages.find' }],
      doors: [...open('review'), { section: 'pages', state: 'look' }, { section: 'notices', state: 'away' }],
      dashboard: boardOf([{ widget: 'review.waiting', hold: 'fixed' }], ['notices.now', 'pages.coming']),
    },
    {
      ...emptyRole(),
      id: 'cafe-manager',
      name: 'Café manager',
      purpose: 'Keeps the café’s pages and hours right.',
      grants: [
        allow('page.view'),
        allow('page.edit'),
        allow('page.send'),
        allow('notice.view'),
        allow('notice.post'),
        allow('notice.end'),
        allow('vacancy.view'),
        ...['vacancy.create', 'vacancy.edit', 'vacancy.send'].map((p) => allow(p, { own: true })),
      ],
      tasks: [
        {
          task: 'pages.words',
          name: 'Change the café hours or the menu',
          said: ['café hours', 'soup', 'cake', 'opening times'],
        },
        { task: 'notices.post', name: 'Tell visitors that the café is closed', said: ['closed', 'private party'] },
        { task: 'notices.end' },
      ],
      doors: open('pages', 'notices', 'vacancies'),
      dashboard: boardOf(['pages.unfinished', 'duties.mine'], ['notices.now', 'pages.lately']),
    },
    {
      ...emptyRole(),
      id: 'picture-keeper',
      name: 'Picture keeper',
      purpose: 'Describes pictures so that everybody gets something from them.',
      grants: [allow('media.*'), allow('page.view')],
      tasks: [{ task: 'pictures.describe' }],
      doors: [...open('pictures'), { section: 'pages', state: 'away' }],
      dashboard: boardOf(),
    },
    {
      ...emptyRole(),
      id: 'newsroom',
      name: 'Newsroom',
      purpose: 'Writes about the line and looks after jobs and history.',
      grants: [
        ...['page.view', 'page.edit', 'page.publish', 'page.send', 'page.create', 'page.arrange', 'page.retire'].map(
          (p) => allow(p, { branch: page('about') }),
        ),
        allow('visits.view'),
        allow('media.view'),
        allow('vacancy.*', { branch: page('about') }),
      ],
      tasks: [
        { task: 'pages.words' },
        { task: 'pages.link' },
        { task: 'pages.publish' },
        { task: 'pages.make' },
        { task: 'vacancies.write' },
      ],
      doors: [...open('pages', 'vacancies'), { section: 'pictures', state: 'look' }],
      pageList: {
        columns: ['state', 'author', 'changed', 'address'],
        filters: [
          { name: 'Not on the website yet', filter: { ...NO_FILTER, state: 'draft' } },
          { name: 'Changed this week', filter: { ...NO_FILTER, days: 7 } },
        ],
      },
      dashboard: boardOf(
        ['pages.unfinished', 'pages.jot', 'vacancies.open'],
        ['duties.mine', 'visits.week', { widget: 'visits.missed', hold: 'offered' }],
      ),
    },
    {
      ...emptyRole(),
      id: 'seasonal-helper',
      name: 'Seasonal helper',
      purpose: 'Helps at the gates in the high season.',
      extends: ['front-line'],
      tasks: [{ task: 'notices.post', name: 'Post a sailing notice', said: ['late boat'] }],
      doors: [{ section: 'notices', state: 'open', name: 'Sailing notices' }],
      dashboard: boardOf(['notices.now']),
    },
  ],
});
