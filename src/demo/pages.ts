import type { Document, PageContent } from '@/core/content';
import type { PICTURES } from './pictures';
import { alert, doc, h2, highlight, list, p, quote, steps, table } from './write';

export interface DemoPage {
  key: string;
  slug: string;
  layout: 'plain' | 'banner' | 'harbour' | 'event' | 'pieces';
  title: string;
  shortName?: string;
  summary: string;
  banner?: keyof typeof PICTURES;
  inNavigation?: false;
  /** Only whoever has an account may visit it. */
  members?: true;
  body?: Document;
  /** What its layout has beside title, summary, banner and text. */
  fields?: PageContent;
  below?: DemoPage[];
}

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
    {
      key: 'harbours',
      slug: 'harbours',
      layout: 'banner',
      title: 'Harbours',
      banner: 'night',
      summary: 'Where our boats leave from, and what you find there.',
      body: doc(
        p('We sail from three harbours. All of them have a ticket office, toilets and a dry place to wait.'),
        p('Boats leave on time. Be at the quay **ten minutes before** the hour on the timetable, with a bike twenty.'),
      ),
      below: [
        {
          key: 'south-quay',
          slug: 'south-quay',
          layout: 'harbour',
          title: 'South Quay',
          banner: 'dawn',
          fields: { hours: 'Every day 06:30 to 19:00\nChristmas Day closed' },
          summary: 'Our home harbour, five minutes on foot from Larkhaven station.',
          body: doc(
            p(
              'The quay is open from the first boat until twenty minutes after the last. Step-free access is on the [east side ramp](/harbours/south-quay/parking); staff can meet you at the gate.',
            ),
            h2('Waiting room'),
            p('Heated, 24 seats, open with the quay. The café next door opens at eight.'),
            h2('Sailings a day'),
            table(['To', 'Summer', 'Winter'], ['Skell Island', '9', '5'], ['Port Ennis', '6', '4']),
            p('Bikes wait by the yellow line and board last.'),
          ),
          below: [
            {
              key: 'parking',
              slug: 'parking',
              layout: 'plain',
              title: 'Parking at South Quay',
              shortName: 'Parking',
              summary: 'Eighty places behind the ticket office, two for blue badges at the ramp.',
              body: doc(
                p('The car park is behind the ticket office. The first two hours are free; a day costs 6.'),
                p('Overnight places are marked with a moon. Leave the ticket behind the windscreen.'),
                p('The east side ramp has two places for blue badge holders, 30 metres from the gate.'),
              ),
            },
            {
              key: 'waiting',
              slug: 'lost-and-found',
              layout: 'plain',
              title: 'Lost and found',
              summary: 'What was left on board waits at South Quay for three months.',
              body: doc(
                p(
                  'Umbrellas mostly. Ask at the ticket office, or write to lost@larkhaven.example with the day and the boat.',
                ),
              ),
            },
          ],
        },
        {
          key: 'skell',
          slug: 'skell-island',
          layout: 'harbour',
          title: 'Skell Island',
          banner: 'skell',
          fields: { hours: 'Every day 07:15 to 18:30' },
          summary: 'A pier, a light, eleven houses and the best sunsets on the line.',
          body: doc(
            p(
              'The pier lies in the lee of the island. In a strong westerly we sail to the old slipway instead; the crew will tell you on board.',
            ),
            h2('On the island'),
            p('The path round the island takes two hours. The light is open on Sundays.'),
          ),
          below: [
            {
              key: 'around',
              slug: 'getting-around',
              layout: 'plain',
              title: 'Getting around on Skell',
              shortName: 'Getting around',
              summary: 'On foot, by bike, or on the back of the post cart.',
              body: doc(
                p('There are no cars on Skell. Bikes can be hired at the pier from April to October.'),
                list(
                  'Pier to light: 25 minutes on foot',
                  'Pier to north beach: 40 minutes',
                  'Post cart: meets the 09:40, ask the driver',
                ),
              ),
            },
          ],
        },
        {
          key: 'ennis',
          slug: 'port-ennis',
          layout: 'harbour',
          title: 'Port Ennis',
          banner: 'ennis',
          fields: { hours: 'Monday to Saturday 06:50 to 18:45\nSunday 08:30 to 17:00' },
          summary: 'A working harbour with a market on Saturdays.',
          body: doc(
            p('We land at the town quay, next to the fish hall. The bus to the hospital stops at the gate.'),
            h2('Market day'),
            p('On Saturdays the quay is full: the 10:20 leaves from the north steps.'),
          ),
          below: [
            {
              key: 'luggage',
              slug: 'left-luggage',
              layout: 'plain',
              title: 'Left luggage',
              summary: 'Twelve lockers at the gate, one large enough for a cello.',
              body: doc(p('Lockers take a coin of 1, which you get back. They are emptied every Monday at noon.')),
            },
          ],
        },
      ],
    },
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
