import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { parse, type DefaultTreeAdapterMap } from 'parse5';
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
  '05-wp-comments': [['The pier opens in May.'], 'Comments are left out: “'],
  '06-wp-tracked': [['Dogs may come along.'], 'Tracked changes are taken as accepted: “must not”.'],
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
  '14-web-doc-comment': [['The café is shut on Mondays.'], 'Comments are left out: “[a]”, “[a]Is it?”.'],
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
  '27-wp-caption': [
    [
      'Our fares this summer are these.',
      '_Table 1: Fares to the island_',
      '| Adult | Seven crowns |',
      '| Child | Three crowns |',
      'See [all fares](https://larkhaven.example/fares) or ask.[1]',
      '[1] At the harbour desk.',
    ],
    'Left out of what you pasted: lines. Footnotes stand as paragraphs at the end.',
  ],
  '28-wp-fields': [
    ['Printed on 1 December 2026 by the harbour desk.', 'The boats are listed in Table 2, on page 4.'],
    '',
  ],
  '29-wp-picture-between': [
    [
      'Before the picture stands this.',
      'After the picture stands that, with a *loud* word.',
      'In a box beside it.',
      'The very last line.',
    ],
    'Left out of what you pasted: pictures. Put pictures in with the tool “Picture”.',
  ],
  '30-wp-no-fragment': [['A whole letter, without a mark of where it begins.', '*Regards*'], ''],
  '31-wp-list-lettered': [
    [
      '1. A. Smith rings the bell',
      '1. B. Jones casts off',
      'A. Smith wrote this.',
      'B. Jones read it.',
      '3. May is a holiday',
      '7. June is another',
    ],
    'Became plain: colours and fonts. Letters before entries of a list became numbers.',
  ],
  '32-wp-changes-struck': [
    ['The boat leaves at eight, never on Sundays, seldom on Mondays.'],
    'Became plain: struck-through words. What was hidden stays out. Comments are left out: “[IV1]”, “[IV1]Is eight right?”. Tracked changes are taken as accepted: “seven”.',
  ],
  '33-sheet-hidden-row': [
    ['| Day | Boats |', '| Monday | 12 |'],
    'Became plain: struck-through words. What was hidden stays out.',
  ],
  '34-slides': [['- Two new boats', '- One new pier'], 'Became plain: colours and fonts.'],
  '35-office-document': [
    [
      'The pier was built in 1897.[1]',
      '_Illustration 1: The pier_',
      '| Built | Mended |',
      '| 1897 | 1954 |',
      'Last words.',
      '[1] By hand.',
    ],
    'Left out of what you pasted: pictures. Put pictures in with the tool “Picture”. Became plain: colours and fonts. Footnotes stand as paragraphs at the end.',
  ],
  '36-office-sheet': [
    ['| *Stop* | *Leaves* |', '| South Quay | 07:30 |', '|  | 12:00 |'],
    'What was hidden stays out. Joined cells are parted.',
  ],
  '37-web-doc-table': [
    ['## Summer', '*First* and second', '| Cabin | Forty |', '1. Ask', '  1. nicely'],
    'Left out of what you pasted: pictures. Put pictures in with the tool “Picture”. Became plain: colours and fonts, struck-through words.',
  ],
  '38-mail-client': [
    [
      'Dear all,',
      'the ramp is *closed* until Friday.',
      '*From:* Ines Varga↵*Sent:* Monday, 30 November 2026 10:12↵*Subject:* Ramp',
      'When does it open?',
      '> Soon, I hope.',
    ],
    'Left out of what you pasted: lines. Became plain: colours and fonts. What was hidden stays out.',
  ],
  '39-notes-app': [
    ['*To do*', '- Paint the pier', '- Order rope', 'Bring the lamp'],
    'Became plain: struck-through words.',
  ],
  '40-reader-page': [
    ['The island lies two miles↵off the coast, and has↵one shop.'],
    'Became plain: colours and fonts.',
  ],
  '41-web-page-parts': [
    [
      '## Boats & buses',
      'How to get here.',
      'The Tern at noon',
      'With a dog',
      'Dogs pay half.',
      'First boat',
      '06:40',
      'Water is H2O, see p. 船boat and so on.',
      'line one↵line two',
    ],
    'Left out of what you pasted: forms, pictures. Put pictures in with the tool “Picture”. Became plain: code, lowered letters. What was hidden stays out. Not in the text: “One way Return”.',
  ],
  '42-chat': [
    [
      '*Priya* 10:42',
      'Is the _late_ boat running?',
      '*Tomas* 10:43',
      'Yes: [times](https://larkhaven.example/times#late) 🚢',
    ],
    '',
  ],
};

/** What stands in the writing area after each of some texts was pasted into an empty one, and what is said of it. */
const pasteEach = (area: ReturnType<typeof writing>, texts: readonly string[]) =>
  area.evaluate((element, all) => {
    const { editor } = element as unknown as {
      editor: { commands: { clearContent: (emit: boolean) => void; focus: () => void }; getText: () => string };
    };
    return all.map((text) => {
      editor.commands.clearContent(true);
      editor.commands.focus();
      const data = new DataTransfer();
      data.setData('text/html', text);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
      return {
        text: editor.getText(),
        said: element.closest('[data-field]')?.querySelector('[role="status"]')?.textContent ?? '',
      };
    });
  }, texts);

type Parsed = DefaultTreeAdapterMap['node'];
const UNSEEN = /^(style|script|head|title|meta|link|template|noscript|iframe|video|audio|object|datalist)$/;
const INLINE = /^(a|b|i|u|s|em|strong|span|font|sub|sup|code|abbr|q|small|o:p|sdfield|ruby|rt|time|cite)$/;
/**
 * Every word a reader of some HTML sees, by an independent reading of it (parse5): comments and what styles hide are
 * not seen; the marks that a word processor writes before entries of lists are shown by the list.
 */
function wordsSeen(html: string): string[] {
  let text = '';
  const rules = [...html.matchAll(/([\w.-]+)\s*\{[^}]*display:\s*none/g)].map(([, selector]) => selector);
  const visit = (node: Parsed): void => {
    if (node.nodeName === '#text' && 'value' in node) text += node.value;
    if (node.nodeName.startsWith('#') && node.nodeName !== '#document') return;
    if (UNSEEN.test(node.nodeName) || rules.includes(node.nodeName)) return;
    const attributes = 'attrs' in node ? node.attrs : [];
    const style = attributes.find(({ name }) => name === 'style')?.value ?? '';
    if (attributes.some(({ name }) => name === 'hidden')) return;
    if (/display:\s*none|visibility:\s*hidden|mso-hide:\s*all|mso-list:\s*ignore/i.test(style)) return;
    const apart = INLINE.test(node.nodeName) ? '' : ' ';
    text += apart;
    if ('childNodes' in node) node.childNodes.forEach(visit);
    text += apart;
  };
  visit(parse(html));
  return wordsOf(text);
}
const wordsOf = (text: string): string[] =>
  text.replaceAll(/[\u00ad\u200b\ufeff]/g, '').match(/[\p{L}\p{N}\p{M}]+/gu) ?? [];
/** Which of some words are not among others, each as often as it is missing. */
function missing(words: readonly string[], there: readonly string[]): string[] {
  const left = [...there];
  return words.filter((word) => {
    const at = left.indexOf(word);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}

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
  expect(files.length).toBeGreaterThanOrEqual(42);
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
    // One rule over all of them: a word that was seen is in the text, or named.
    const marks = lines.flatMap((line) => /^\s*1\./.exec(line)?.[0] ?? []);
    const lost = missing(wordsSeen(html), wordsOf(`${lines.join(' ')} ${said}`));
    expect(
      lost.filter((word) => !(marks.length > 0 && /^(\d+|[a-z])$/.test(word))),
      `${file}: ${lines.join('\n')}\n${said}`,
    ).toEqual([]);
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

test('however comments and conditional comments nest, every word that is seen arrives or is named', async ({
  browser,
  app,
}) => {
  const SEED = 20261201;
  let count = 0;
  const word = () => `w${(count++).toString(36)}x`;
  const { text } = fc.letrec<{ text: string }>((tie) => ({
    text: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      fc.constant(null).map(() => ` ${word()} `),
      fc.constant(null).map(() => `<p class=MsoNormal>${word()} <b>${word()}</b><o:p></o:p></p>`),
      fc.constant(null).map(() => `<!-- ${word()} -->`),
      fc
        .constant(null)
        .map(() => `<!--[if supportFields]><span style='mso-element:field-begin'></span> ${word()}<![endif]-->`),
      fc.constant(null).map(() => `<!--[if gte mso 9]><xml><w:data>${word()}</w:data></xml><![endif]-->`),
      fc.constant(null).map(() => '<!--StartFragment-->'),
      fc.constant(null).map(() => `<p style='display:none'>${word()}</p>`),
      tie('text').map((inner) => `<![if !vml]>${inner}<![endif]>`),
      tie('text').map((inner) => `<!--[if !mso]><!-->${inner}<!--<![endif]-->`),
      tie('text').map((inner) => `<!--[if !mso]>-->${inner}<!--<![endif]-->`),
      tie('text').map((inner) => `<!--[if mso]>${inner.replaceAll('-->', '')}<![endif]-->`),
      tie('text').map((inner) => `<div>${inner}</div>`),
      tie('text').map((inner) => `<table><tr><td>${inner}</td><td>${word()}</td></tr></table>`),
      tie('text').map((inner) => `<ul><li>${inner}</li></ul>`),
      tie('text').map((inner) => `<span style='mso-no-proof:yes'>${inner}</span>`),
      fc.tuple(tie('text'), tie('text')).map(([one, other]) => `${one}${other}`),
    ),
  }));
  const texts = fc.sample(
    fc.array(text, { minLength: 1, maxLength: 6 }).map((parts) => parts.join('')),
    { seed: SEED, numRuns: 600 },
  );
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Fares');
  const got = await pasteEach(writing(maud), texts);
  texts.forEach((html, i) => {
    const { text: there, said } = got[i] ?? { text: '', said: '' };
    expect(missing(wordsSeen(html), wordsOf(`${there} ${said}`)), `seed ${SEED}, ${i}: ${html}`).toEqual([]);
    // And nothing comes in that nobody saw.
    expect(missing(wordsOf(there), wordsSeen(html)), `seed ${SEED}, ${i}: ${html}`).toEqual([]);
  });
  expect(texts.filter((html) => wordsSeen(html).length > 3).length).toBeGreaterThan(100);
  await isKept(maud);
  await maud.context().close();
});
