import type { DemoPage } from './page';
import { doc, h2, list, p, table } from './write';

export const HARBOURS: DemoPage = {
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
      fields: { hours: 'Every day 06:30 to 19:00\nChristmas Day closed', phone: '01632 960011' },
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
      fields: { hours: 'Every day 07:15 to 18:30', phone: '01632 960012' },
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
};
