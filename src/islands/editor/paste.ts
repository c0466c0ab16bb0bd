import {
  BLOCKS,
  makeHeadings,
  makeLists,
  makeParagraphs,
  makeTables,
  settleChanges,
  settleFootnotes,
  styleOf,
  unwrap,
} from './pasteShapes';
import { dropHidden, spreadStyles, textSeen, wordsMissing } from './pasteSeen';

/**
 * What a word processor, a web page, a sheet or a mail puts on the clipboard, made into HTML that a text has a place
 * for. Parsed inertly: nothing in it runs. Nothing goes without being told, in an editor's words.
 */
export interface Pasted {
  html: string;
  /** What has no place in a text and is not there any more. */
  left: string[];
  /** What stays as plain words. */
  plain: string[];
  /** What else was done with it, as sentences. */
  told: string[];
  /** What whoever copied it saw, as text. */
  seen: string;
  /** The marks that lists now show by themselves. */
  marks: string;
}

const KEPT = new Set([
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'li',
  'blockquote',
  'table',
  'tbody',
  'thead',
  'tfoot',
  'tr',
  'th',
  'td',
  'strong',
  'b',
  'em',
  'i',
  'a',
  'br',
  'colgroup',
  'col',
  'div',
  'span',
  'img',
  'caption',
]);
/** Elements that say nothing by themselves: their going is not worth a word. */
const SILENT = new Set([
  'html',
  'head',
  'body',
  'meta',
  'link',
  'title',
  'style',
  'font',
  'section',
  'article',
  'main',
  'header',
  'footer',
  'nav',
  'aside',
  'figure',
  'figcaption',
  'small',
  'center',
  'o:p',
  'xml',
  'ins',
  'google-sheets-html-origin',
  'address',
  'time',
  'abbr',
  'cite',
  'label',
  'wbr',
  'tt',
  'kbd',
  'samp',
  'var',
  'dl',
  'dt',
  'dd',
  'details',
  'summary',
  'picture',
  'source',
  'big',
  'q',
  'dfn',
  'st1:place',
  'v:shape',
  'v:shapetype',
  'v:stroke',
  'v:path',
]);
const LEFT: Record<string, string> = {
  img: 'pictures',
  video: 'films',
  audio: 'sound',
  iframe: 'parts of other websites',
  object: 'parts of other websites',
  embed: 'parts of other websites',
  form: 'forms',
  input: 'forms',
  button: 'forms',
  select: 'forms',
  textarea: 'forms',
  hr: 'lines',
  svg: 'drawings',
  canvas: 'drawings',
  script: 'scripts',
  'v:imagedata': 'pictures',
  math: 'formulas',
};
const PLAIN: Record<string, string> = {
  u: 'underlining',
  s: 'struck-through words',
  strike: 'struck-through words',
  del: 'struck-through words',
  sup: 'raised letters',
  sub: 'lowered letters',
  code: 'code',
  pre: 'code',
  mark: 'marked words',
};
/**
 * Names of what would go of HTML written by hand, as is told by what would be there of it: elements, attributes, links,
 * comments.
 */
export function whatIsDropped(html: string, kept: string): string[] {
  const [written, there] = [html, kept].map((text) => new DOMParser().parseFromString(text, 'text/html')) as [
    Document,
    Document,
  ];
  const { left, plain } = look(written.documentElement);
  const names = new Set([...left, ...plain]);
  const hrefs = new Set([...there.querySelectorAll('a[href]')].map((link) => link.getAttribute('href')));
  // What an element that goes had of its own goes with it, without a further word.
  for (const element of written.body.querySelectorAll([...KEPT].join()))
    for (const { name, value } of element.attributes) {
      if (name === 'href') {
        if (
          element.localName === 'a' &&
          !hrefs.has(value) &&
          !hrefs.has(value.trim()) &&
          !left.has('links that are none')
        )
          names.add(`the link to “${value.slice(0, 60)}”`);
      } else if (!there.querySelector(`[${CSS.escape(name)}]`) && !(name === 'style' && plain.has('colours and fonts')))
        names.add(name === 'class' ? 'classes' : name === 'style' ? 'styles' : `“${name}”`);
    }
  if (written.createNodeIterator(written, NodeFilter.SHOW_COMMENT).nextNode()) names.add('comments');
  return [...names].sort();
}

function look(body: HTMLElement): { left: Set<string>; plain: Set<string> } {
  const [left, plain] = [new Set<string>(), new Set<string>()];
  for (const element of body.querySelectorAll('*')) {
    const name = element.localName;
    if (/text-decoration[^;]*line-through/i.test(styleOf(element))) plain.add('struck-through words');
    if (name === 'img' ? element.hasAttribute('data-picture') : KEPT.has(name)) {
      if (
        /(?:^|;)\s*(?:color|background|font-family|font-size|font:|text-align)/i.test(styleOf(element)) &&
        !/^(td|th|tr|col|table)$/.test(name)
      )
        plain.add('colours and fonts');
      if (name === 'a' && /^\s*(javascript|data|vbscript):/i.test(element.getAttribute('href') ?? ''))
        left.add('links that are none');
      if (/text-decoration[^;]*underline/i.test(styleOf(element)) && name !== 'a' && element.closest('a') === null)
        plain.add('underlining');
      continue;
    }
    if (SILENT.has(name)) continue;
    const gone = LEFT[name];
    if (gone !== undefined) left.add(gone);
    else plain.add(PLAIN[name] ?? `<${name}>`);
  }
  return { left, plain };
}

/** Pasted HTML as a text can have it. */
export function readPasted(html: string): Pasted {
  // Conditional comments are comments to a browser, and what stands between open ones is there: as the standard has it.
  const parsed = new DOMParser().parseFromString(html, 'text/html');
  const { body } = parsed;
  const told = new Set<string>();
  spreadStyles(parsed);
  dropHidden(body, told);
  settleChanges(body, told);
  const seen = textSeen(body);
  settleFootnotes(body, told);
  const { left, plain } = look(body);
  for (const element of body.querySelectorAll(
    'img:not([data-picture]), br[clear], hr, svg, canvas, video, audio, iframe, object, embed, input, button, select, textarea',
  ))
    element.remove();
  for (const element of body.querySelectorAll(
    'b[style*="font-weight:normal"], b[style*="font-weight: normal"], a:not([href]), a[href^="#"]',
  ))
    unwrap(element);
  makeHeadings(body);
  const marks = makeLists(body, told);
  makeTables(body, told);
  makeParagraphs(body);
  // Spaces that only hold a place, and what nobody can see.
  const walker = body.ownerDocument.createTreeWalker(body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode())
    node.textContent = (node.textContent ?? '')
      .replaceAll(/[\u200b\u00ad\ufeff]/g, '')
      .replaceAll(/(?<![\d])\u00a0|\u00a0(?![\p{L}\d%°€£$])/gu, ' ')
      .replaceAll(/[ \t\r\n]{2,}/g, ' ');
  return {
    html: body.innerHTML,
    left: [...left].sort(), // Elements without a name of their own say nothing to an editor; their words are there.
    plain: [...plain].filter((name) => !name.startsWith('<')).sort(),
    told: [...told],
    seen,
    marks,
  };
}

/** As many letters of what is missing as are named. */
const MOST_NAMED = 1500;

/**
 * What was done with what was pasted, in a few sentences; nothing where it is there as it was. `there`: what of it is in
 * the text now; every word that is not is named.
 */
export function pastedInWords({ left, plain, told, seen, marks }: Pasted, there: string, hasPictures: boolean): string {
  const pictures = !left.includes('pictures')
    ? ''
    : hasPictures
      ? ' Put pictures in with the tool “Picture”.'
      : ' Ask whoever looks after the pictures to put them in.';
  const missing = wordsMissing(seen, `${there} ${marks}`);
  let named = 0;
  const few = missing.filter((words) => (named += words.length) <= MOST_NAMED);
  const rest = missing.slice(few.length).reduce((sum, words) => sum + words.split(' ').length, 0);
  return [
    left.length > 0 && `Left out of what you pasted: ${left.join(', ')}.${pictures}`,
    plain.length > 0 && `Became plain: ${plain.join(', ')}.`,
    ...told,
    missing.length > 0 &&
      `Not in the text: ${few.map((words) => `“${words}”`).join(', ')}${rest === 0 ? '' : ` and ${rest} more words`}.`,
  ]
    .filter(Boolean)
    .join(' ');
}

/** HTML written by hand under “Code”: only headings are put on the levels a text has. */
export function tidied(html: string): string {
  const { body } = new DOMParser().parseFromString(html, 'text/html');
  makeHeadings(body);
  // Spaces within lines are as they were written; the ends of lines, and what stands between blocks, are none.
  const walker = body.ownerDocument.createTreeWalker(body, NodeFilter.SHOW_TEXT);
  const empty: Node[] = [];
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.textContent ?? '';
    const holder = node.parentElement;
    const isBetween =
      text.trim() === '' &&
      (holder === body ||
        [...(holder?.children ?? [])].some((child) => child.matches(BLOCKS)) ||
        holder?.matches('table, thead, tbody, tr, ul, ol') === true);
    if (isBetween) empty.push(node);
    else node.textContent = text.replaceAll(/[ \t]*[\r\n]+[ \t]*/g, ' ');
  }
  for (const node of empty) node.parentNode?.removeChild(node);
  return body.innerHTML;
}
