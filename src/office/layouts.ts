import type { Field, Layout, Layouts } from '@/core/content';

const title: Field = { id: 'title', kind: 'short', name: 'Page title', max: 120, required: true };
const summary: Field = {
  id: 'summary',
  kind: 'long',
  name: 'Summary',
  hint: 'One or two sentences, under the title and in lists.',
  max: 300,
};
const body: Field = { id: 'body', kind: 'rich', name: 'Text' };
const banner: Field = { id: 'banner', kind: 'picture', name: 'Banner picture' };

/** The layouts of this back office: which fields a page has. */
export const layouts: Layouts = new Map(
  (
    [
      {
        id: 'plain',
        name: 'Plain page',
        purpose: 'A title and a text, for most pages.',
        fields: [title, summary, body],
      },
      {
        id: 'banner',
        name: 'Page with banner',
        purpose: 'The same under a wide picture.',
        fields: [title, summary, banner, body],
      },
      {
        id: 'harbour',
        name: 'Harbour page',
        purpose: 'A harbour with its ticket office.',
        fields: [
          title,
          summary,
          banner,
          {
            id: 'hours',
            kind: 'long',
            name: 'Ticket office hours',
            hint: 'One line for each rule: “Every day 06:30 to 19:00”.',
            max: 400,
          },
          body,
          // Below the text, which begins further up that way.
          { id: 'phone', kind: 'telephone', name: 'Telephone of the ticket office' },
        ],
      },
      {
        id: 'event',
        name: 'Event page',
        purpose: 'Something on one day: when, how much, and what happens.',
        fields: [
          title,
          summary,
          { id: 'when', kind: 'moment', name: 'Begins', hint: 'On the site’s clock.', required: true },
          { id: 'intro', kind: 'rich', name: 'Opening words' },
          { id: 'lastDay', kind: 'day', name: 'Last day', hint: 'Only where it takes more than one.' },
          {
            id: 'sort',
            kind: 'choice',
            name: 'Kind of event',
            required: true,
            options: [
              { id: 'outing', name: 'Outing' },
              { id: 'market', name: 'Market' },
              { id: 'works', name: 'Works on the pier' },
            ],
          },
          {
            id: 'price',
            kind: 'number',
            name: 'Price',
            hint: 'Leave it empty where nothing is to be paid; 0 says “free”.',
            min: 0,
            max: 1000,
            unit: 'pounds',
          },
          { id: 'booking', kind: 'link', name: 'Where to book' },
          banner,
          {
            id: 'programme',
            kind: 'list',
            name: 'Programme',
            entry: 'entry',
            most: 30,
            of: [
              { id: 'time', name: 'Time', max: 20 },
              { id: 'what', name: 'What happens', max: 160 },
            ],
          },
          body,
        ],
      },
      {
        id: 'pieces',
        name: 'Page in pieces',
        purpose: 'A long page built from pieces that can be moved about.',
        fields: [
          title,
          summary,
          banner,
          {
            id: 'pieces',
            kind: 'pieces',
            name: 'Pieces',
            most: 40,
            regions: [
              { id: 'main', name: 'Main part' },
              { id: 'side', name: 'Beside it' },
            ],
          },
        ],
      },
    ] satisfies Layout[]
  ).map((layout) => [layout.id, layout]),
);
