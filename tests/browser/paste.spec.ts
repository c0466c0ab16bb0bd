import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, isKept, openPage, signIn, test, writing } from './app';

const FOLDER = 'tests/browser/clipboards';
/** What becomes of each clipboard: the text, a line a block, and what is said. */
const BECOMES: Record<string, readonly [lines: readonly string[], said: string]> = {
  '01-wp-bullets': [['Bring with you:', '- a coat', '- a torch'], 'Became plain: colours and fonts.'],
  '02-wp-nested': [['- Boats', '  - the Tern', '  - the Plover', '- Buses'], ''],
  '03-wp-numbers': [['1. Ring the bell.', '1. Wait.'], ''],
  '04-wp-headings': [
    ['## Winter timetable', '## From South Quay', '### On Sundays', 'The *first* boat leaves at eight.'],
    '',
  ],
  '05-wp-comments': [['The pier opens in May.'], 'Comments are left out.'],
  '06-wp-tracked': [['Dogs may come along.'], 'Tracked changes are taken as accepted.'],
  '07-wp-footnotes': [
    ['Children sail free[1] .', '[1] Under five.'],
    'Left out of what you pasted: lines. Footnotes stand as paragraphs at the end.',
  ],
  '08-wp-table': [
    ['Fares', '| *To Skell* |  |', '| Adult | £4 |'],
    'Became plain: colours and fonts. Joined cells are parted.',
  ],
  '09-wp-picture': [['Our boat:'], 'Left out of what you pasted: pictures. Put pictures in with the tool “Picture”.'],
  '10-wp-quotes-spaces': [['“Mind the gap,” she said – it’s 20\u00a0km.', 'Timetable'], ''],
  '11-office-list': [['- tea', '- cake', '  - with cream', 'Open daily.'], ''],
  '12-office-footnote': [
    ['Dogs need a ticket[1] .', '[1] Except guide dogs.'],
    'Footnotes stand as paragraphs at the end.',
  ],
  '13-web-doc': [
    ['## Notes', '*Bold* and _slanted_', '- one', '  - one below', '- two'],
    'Became plain: colours and fonts.',
  ],
  '14-web-doc-comment': [['The café is shut on Mondays.'], 'Comments are left out.'],
  '15-sheet': [['| From | To |', '| 08:00 | 08:40 |'], ''],
  '16-web-sheet': [['| Boat | Seats |', '| Tern | 120 |'], ''],
  '17-mail': [['Dear Ines,', 'the ramp is closed.', 'Please tell people.', '> When?', '-- ↵Tomas'], ''],
  '18-mail-layout-table': [['## News', 'The band plays again.'], ''],
  '19-mail-dashes': [['We need:', '- ropes', '- two lamps'], ''],
  '20-web-page': [
    ['## Lighthouse', 'See [the light](https://larkhaven.example/light) or press.', 'The light in fog'],
    'Left out of what you pasted: films, links that are none, pictures. Put pictures in with the tool “Picture”. Became plain: colours and fonts.',
  ],
  '21-web-table-head': [['| Day | Boats |', '| Monday | 08:00 |', '|  | 09:00 |'], 'Joined cells are parted.'],
  '22-reader-lines': [['1. Cast off.', '1. Hoist the flag.', '1. Wave.'], ''],
  '23-one-dash': [['– said the captain, and left.'], ''],
  '24-notes-checklist': [['- fuel', '- paint', '- flags'], 'Became plain: struck-through words, underlining.'],
  '25-aria-headings': [['## Opening times', 'Every day.'], ''],
  '26-scripts': [['Book', 'Safe words.'], 'Left out of what you pasted: forms, parts of other websites'],
};

test('what other programs put on the clipboard arrives with its structure, and what goes is told in plain words', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Fares');
  const area = writing(maud);
  const files = readdirSync(FOLDER)
    .map((file) => file.replace(/\.html$/, ''))
    .sort();
  expect(files).toEqual(Object.keys(BECOMES).sort());
  expect(files.length).toBeGreaterThanOrEqual(24);
  const got: Record<string, unknown> = {};
  const wanted: Record<string, unknown> = {};
  for (const file of files) {
    const html = readFileSync(join(FOLDER, `${file}.html`), 'utf8');
    const lines = await area.evaluate((element, text) => {
      interface Node {
        type: string;
        text?: string;
        attrs?: { level?: number };
        marks?: { type: string; attrs?: { href?: string } }[];
        content?: Node[];
      }
      const { editor } = element as unknown as {
        editor: { commands: { clearContent: (emit: boolean) => void; focus: () => void }; getJSON: () => Node };
      };
      editor.commands.clearContent(true);
      editor.commands.focus();
      const data = new DataTransfer();
      data.setData('text/html', text);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
      const words = (node: Node): string => {
        if (node.type === 'hardBreak') return '↵';
        if (node.text === undefined) return (node.content ?? []).map(words).join('');
        return (node.marks ?? []).reduce(
          (said, mark) =>
            mark.type === 'bold'
              ? `*${said}*`
              : mark.type === 'italic'
                ? `_${said}_`
                : `[${said}](${mark.attrs?.href})`,
          node.text,
        );
      };
      const out: string[] = [];
      const visit = (node: Node, before: string): void => {
        if (node.type === 'paragraph') {
          if (words(node) !== '' || before.trim() !== '') out.push(before + words(node).trim());
        } else if (node.type === 'heading') out.push(`${'#'.repeat(node.attrs?.level ?? 0)} ${words(node)}`);
        else if (node.type === 'bulletList' || node.type === 'orderedList')
          for (const item of node.content ?? [])
            item.content?.forEach((child, i) =>
              visit(
                child,
                i === 0
                  ? `${before.replace(/\S/g, ' ')}${node.type === 'bulletList' ? '- ' : '1. '}`
                  : `${before.replace(/\S/g, ' ')}  `,
              ),
            );
        else if (node.type === 'tableRow') out.push(`| ${(node.content ?? []).map(words).join(' | ')} |`);
        else node.content?.forEach((child) => visit(child, node.type === 'blockquote' ? '> ' : before));
      };
      editor.getJSON().content?.forEach((child) => visit(child, ''));
      return out;
    }, html);
    const said = (
      await area.evaluate(
        (element) => element.closest('[data-field]')?.querySelector('[role="status"]')?.textContent ?? '',
      )
    ).trim();
    got[file] = [lines, said];
    wanted[file] = BECOMES[file] && [
      BECOMES[file][0],
      BECOMES[file][1] === '' || !said.startsWith(BECOMES[file][1]) ? BECOMES[file][1] : said,
    ];
  }
  expect(got).toEqual(wanted);
  // Behind words that stand there already what comes first keeps its structure, too.
  const behind = await area.evaluate((element) => {
    const { editor } = element as unknown as {
      editor: {
        commands: { setContent: (html: string) => void; focus: (where: string) => void };
        getJSON: () => { content: { type: string }[] };
      };
    };
    return [
      '<h2>Big</h2><p>and small</p>',
      '<ul><li>one</li><li>two</li></ul><p>after</p>',
      '<p>only</p><p>paragraphs</p>',
    ].map((html) => {
      editor.commands.setContent('<p>Before</p>');
      editor.commands.focus('end');
      const data = new DataTransfer();
      data.setData('text/html', html);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
      return editor
        .getJSON()
        .content.map((block) => block.type)
        .join(' ');
    });
  });
  expect(behind).toEqual(['paragraph heading paragraph', 'paragraph bulletList paragraph', 'paragraph paragraph']);
  // A file alone is not put aside silently.
  await area.evaluate((element) => {
    const data = new DataTransfer();
    data.items.add(new File([new Uint8Array([1])], 'boat.png', { type: 'image/png' }));
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(maud.getByText('A picture or file cannot be pasted into a text.')).toBeVisible();
  await isKept(maud);
  await maud.context().close();
});
