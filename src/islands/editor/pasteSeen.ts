import { BLOCKS, MARKS, styleOf } from './pasteShapes';

// What somebody sees of what they copied, so that nothing of it goes untold.

/** What a sheet of styles can say of words that a text has a place for, or that nobody sees. */
const SAID = /^(?:display|visibility|mso-hide|mso-element|text-decoration(?:-line)?|font-weight|font-style)$/i;
const LONGEST_SHEET = 400_000;

/** Styles that stand in a sheet of their own, as sheets and word processors write them, put on what they are about. */
export function spreadStyles({ head, body }: Document): void {
  const sheets = [...head.querySelectorAll('style'), ...body.querySelectorAll('style')];
  const text = sheets.map((sheet) => sheet.textContent ?? '').join('\n');
  if (text.length > LONGEST_SHEET) return;
  for (const [, selector = '', declared = ''] of text
    .replaceAll(/<!--|-->|\/\*[\s\S]*?\*\//g, ' ')
    .matchAll(/([^{}]+)\{([^{}]*)\}/g)) {
    const said = declared.split(';').filter((one) => SAID.test(one.split(':')[0]?.trim() ?? ''));
    if (said.length === 0 || selector.trim().startsWith('@')) continue;
    let about: Element[] = [];
    try {
      about = [...body.querySelectorAll(selector)];
    } catch {
      // A selector of a program's own: nothing here can be meant.
    }
    // What stands on the element itself comes later, and is stronger.
    for (const element of about) element.setAttribute('style', `${said.join(';')};${styleOf(element)}`);
  }
}

const NEVER_SEEN =
  'style, script, meta, link, title, xml, template, head, noscript, datalist, iframe, object, video, audio';
const isHidden = (element: Element): boolean =>
  element.hasAttribute('hidden') ||
  /(?:^|;)\s*(?:display:\s*none|visibility:\s*(?:hidden|collapse)|mso-hide:\s*all)/i.test(
    // The last word on a thing counts.
    [
      ...new Map(
        styleOf(element)
          .split(';')
          .map((one) => [one.split(':')[0]?.trim().toLowerCase(), one]),
      ).values(),
    ].join(';'),
  );

/** Takes away what nobody saw who copied it. */
export function dropHidden(body: HTMLElement, told: Set<string>): void {
  for (const element of body.querySelectorAll('style, script, meta, link, title, xml, template, head'))
    element.remove();
  for (const element of body.querySelectorAll('[hidden], [style]')) {
    if (!element.isConnected || !isHidden(element)) continue;
    if ((element.textContent ?? '').trim() !== '') told.add('What was hidden stays out.');
    element.remove();
  }
}

/** The text somebody sees, with a space between blocks. */
export function textSeen(body: HTMLElement): string {
  const parts: string[] = [];
  const visit = (node: Node): void => {
    if (node.nodeType === Node.TEXT_NODE) parts.push(node.textContent ?? '');
    if (!(node instanceof Element) && node.nodeType !== Node.ELEMENT_NODE) return;
    const element = node as Element;
    if (element.matches(NEVER_SEEN) || element.matches(MARKS)) return;
    const parted = element.matches(`${BLOCKS}, br, hr, img, option, caption, figcaption, address, center`);
    if (parted) parts.push(' ');
    for (const child of element.childNodes) visit(child);
    if (parted) parts.push(' ');
  };
  visit(body);
  return parts.join('');
}

const wordsIn = (text: string): { word: string; at: number }[] =>
  [...text.replaceAll(/[\u200b\u00ad\ufeff]/g, '').matchAll(/[\p{L}\p{N}\p{M}]+/gu)].map(({ 0: word, index }) => ({
    word,
    at: index,
  }));

/** Runs of words that were seen and are not there, each as it stood. */
export function wordsMissing(seen: string, there: string): string[] {
  const left = new Map<string, number>();
  for (const { word } of wordsIn(there)) left.set(word, (left.get(word) ?? 0) + 1);
  const text = seen.replaceAll(/[\u200b\u00ad\ufeff]/g, '');
  const runs: { from: number; to: number; last: number }[] = [];
  wordsIn(text).forEach(({ word, at }, i) => {
    const count = left.get(word) ?? 0;
    if (count > 0) return void left.set(word, count - 1);
    const run = runs.at(-1);
    if (run?.last === i - 1) Object.assign(run, { to: at + word.length, last: i });
    else runs.push({ from: at, to: at + word.length, last: i });
  });
  return runs.map(({ from, to }) => text.slice(from, to).replaceAll(/\s+/g, ' '));
}
