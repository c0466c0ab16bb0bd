import { HARBOURS } from './harbours';
import type { DemoPage } from './page';
import { alert, doc, h2, highlight, list, p, quote, steps, table } from './write';

const LANTERNS: DemoPage = {
  key: 'lanterns',
  slug: 'lantern-night',
  layout: 'event',
  title: 'Lantern Night on the water',
  shortName: 'Lantern Night',
  banner: 'night',
  summary: 'Three boats, four hundred lanterns and the brass band of Port Ennis.',
  fields: {
    when: '2026-12-12T17:30',
    lastDay: '',
    sort: 'outing',
    price: 12,
    booking: { href: 'mailto:lanterns@larkhaven.example', words: 'Keep a place by mail' },
    intro: doc(p('Once a year our boats sail side by side, slowly and without engines for the last mile.')),
    programme: [
      { time: '17:30', what: 'Boarding at South Quay, with soup' },
      { time: '18:00', what: 'Off to Skell Island' },
      { time: '19:15', what: 'The band plays from the middle boat' },
      { time: '21:00', what: 'Back at the quay' },
    ],
  },
  body: doc(
    highlight('Children sail free if they bring a lantern of their own.'),
    p('Dress for the deck: it is colder than it looks. Dogs may find the band too loud.'),
    alert('2026-12-12', 'The upper deck of the Tern is full. There is room on the two other boats.'),
  ),
};
const GROUPS: DemoPage = {
  key: 'groups',
  slug: 'groups',
  layout: 'pieces',
  title: 'Travelling as a group',
  shortName: 'Groups',
  summary: 'Ten or more pay for nine. A word beforehand makes it easy for everybody.',
  fields: {
    pieces: [
      {
        id: 'schools',
        region: 'main',
        heading: 'School classes',
        text: doc(
          p('Tell us a week before, with the number of children. A steward meets you at the gate and counts with you.'),
        ),
        picture: null,
      },
      {
        id: 'clubs',
        region: 'main',
        heading: 'Clubs and works outings',
        text: doc(
          p('The lower deck can be yours alone on the 10:20.'),
          list('forty seats at tables', 'tea in urns', 'a place for bikes'),
        ),
        picture: null,
      },
      {
        id: 'ask',
        region: 'side',
        heading: 'Ask first',
        text: doc(p('[groups@larkhaven.example](mailto:groups@larkhaven.example), or any ticket office.')),
        picture: null,
      },
    ],
  },
};

export const HOME: DemoPage = {
  key: 'home',
  slug: '',
  layout: 'banner',
  title: 'Three harbours, one short crossing',
  shortName: 'Home',
  banner: 'crossing',
  summary: 'Larkhaven Ferries sails between South Quay, Skell Island and Port Ennis every day of the year.',
  body: doc(
    p(
      'Forty minutes on the water and the mainland is behind you. Our three boats carry walkers, school classes, bikes, post and the odd piano, in summer nine times a day and in winter five.',
    ),
    h2('Before you sail'),
    list(
      'Look at the [timetable](/timetable): winter hours run until the end of March.',
      'Buy tickets on board or at the quay; [fares](/fares) are the same everywhere.',
      'Need a ramp, a lift or a hand? Tell the [harbour](/harbours) you leave from.',
    ),
    h2('Worth the trip'),
    p(
      'Soup and a window seat at the [café on South Quay](/cafe), the light on [Skell Island](/harbours/skell-island), Saturday market in [Port Ennis](/harbours/port-ennis).',
    ),
  ),
  below: [
    HARBOURS,
    {
      key: 'timetable',
      slug: 'timetable',
      layout: 'banner',
      title: 'Timetable',
      banner: 'deck',
      summary: 'Winter hours, until 31 March.',
      body: doc(
        h2('South Quay to Skell Island'),
        table(
          ['Leaves', 'Arrives', 'Days'],
          ['07:40', '08:20', 'Monday to Saturday'],
          ['09:40', '10:20', 'every day'],
          ['12:10', '12:50', 'every day'],
          ['15:10', '15:50', 'every day'],
          ['17:40', '18:20', 'Monday to Saturday'],
        ),
        h2('South Quay to Port Ennis'),
        table(
          ['Leaves', 'Arrives', 'Days'],
          ['08:00', '09:10', 'Monday to Saturday'],
          ['10:20', '11:30', 'every day'],
          ['13:30', '14:40', 'every day'],
          ['16:45', '17:55', 'every day'],
        ),
        p('Boats may be late in fog. When they are, it says so at the top of every page.'),
      ),
      below: [
        {
          key: 'school',
          slug: 'school-boat',
          layout: 'plain',
          title: 'School boat',
          summary: 'The 07:40 on school days, with a steward on the upper deck.',
          body: doc(
            p('Pupils with a season ticket board first. The steward stays with them until the gate at South Quay.'),
          ),
        },
        LANTERNS,
      ],
    },
    {
      key: 'fares',
      slug: 'fares',
      layout: 'plain',
      title: 'Fares',
      summary: 'One price, whichever boat. Children under six sail free.',
      body: doc(
        table(
          ['Ticket', 'One way', 'Return'],
          ['Grown-up', '7.40', '12.80'],
          ['Child 6 to 15', '3.70', '6.40'],
          ['Bike', '2.00', '3.00'],
          ['Dog', 'free', 'free'],
        ),
        p('Groups of ten or more pay for nine. Pay with coins, notes or card.'),
        h2('If a boat does not sail'),
        p('Your ticket is good for the next one, or you get your money back at the quay.'),
      ),
      below: [
        {
          key: 'season',
          slug: 'season-tickets',
          layout: 'plain',
          title: 'Season tickets',
          summary: 'A month for the price of eleven crossings.',
          body: doc(
            steps('Bring a photo to any ticket office.', 'Choose a month, a quarter or a year.', 'Sail the same day.'),
            p('Season tickets are good on all boats and for left luggage.'),
          ),
        },
        GROUPS,
      ],
    },
    {
      key: 'cafe',
      slug: 'cafe',
      layout: 'banner',
      title: 'The Slipway Café',
      shortName: 'Café',
      banner: 'cafe',
      summary: 'Soup, sandwiches and a window on the sea, at South Quay.',
      body: doc(
        p('Open every day from eight until the last boat has left. On Sundays there is cake as long as it lasts.'),
        quote('“The only place where I do not mind missing the boat.” A guest from Port Ennis'),
        p('Groups: call ahead, we have forty seats.'),
      ),
      below: [
        {
          key: 'menu',
          slug: 'menu',
          layout: 'plain',
          title: 'What there is to eat',
          shortName: 'Menu',
          summary: 'It changes with the boats and the season.',
          body: doc(
            h2('Always'),
            list('Fish soup with bread', 'Pea soup, without fish', 'Toasted cheese'),
            h2('Mostly'),
            list('Apple cake', 'Almond biscuits'),
          ),
        },
      ],
    },
    {
      key: 'about',
      slug: 'about',
      layout: 'plain',
      title: 'About us',
      summary: 'Forty people, three boats, one line since 1887.',
      body: doc(
        p('Larkhaven Ferries belongs to the people who live along it: every household on Skell holds a share.'),
      ),
      below: [
        {
          key: 'history',
          slug: 'history',
          layout: 'banner',
          title: 'Our history',
          shortName: 'History',
          banner: 'steamer',
          summary: 'From a paddle steamer with one funnel to three boats with none.',
          body: doc(
            p(
              'The first crossing, in May 1887, took two hours and lost a crate of hens. The _Wren_ sailed until 1931.',
            ),
            h2('The line today'),
            p('Since 2019 all our boats run on the batteries they load at South Quay overnight.'),
          ),
        },
        {
          key: 'jobs',
          slug: 'jobs',
          layout: 'plain',
          title: 'Jobs',
          summary: 'We look for people who like weather.',
          body: doc(
            h2('Working with us'),
            p(
              'We sail every day of the year, and in summer from before seven until after ten. Whoever works here can swim.',
            ),
            p('Write to jobs@larkhaven.example.'),
          ),
        },
        {
          key: 'crew',
          slug: 'crew',
          layout: 'plain',
          title: 'For the crew',
          summary: 'Rosters, keys and the cake list. Members only.',
          members: true,
          body: doc(
            h2('This week'),
            p('The _Wren II_ is in the dock until Thursday; the _Tern_ takes her sailings.'),
            p('Keys to the South Quay store hang in the ticket office. Sign for them.'),
            p('Cake on Friday: Tomas.'),
          ),
        },
        {
          key: 'contact',
          slug: 'contact',
          layout: 'plain',
          title: 'Contact',
          summary: 'A person answers, mostly within three rings.',
          body: doc(
            p('Ticket office South Quay: [0555 010 200](tel:+555010200), every day 06:30 to 19:00.'),
            p('Write to [hello@larkhaven.example](mailto:hello@larkhaven.example).'),
          ),
        },
      ],
    },
  ],
};
