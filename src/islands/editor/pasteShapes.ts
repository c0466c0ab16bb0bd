// What was pasted, put into shapes a text has: changes, footnotes, lists, tables, headings, paragraphs.

/** Elements that stand below one another. */
export const BLOCKS =
  'p, h1, h2, h3, h4, h5, h6, ul, ol, li, blockquote, table, tr, td, th, div, section, article, figure, pre, dl, dd, dt';

export const styleOf = (element: Element) => (element.getAttribute('style') ?? '').replaceAll(/\s+/g, ' ');
export const unwrap = (element: Element) => element.replaceWith(...element.childNodes);
function rename(element: Element, name: string): HTMLElement {
  const other = element.ownerDocument.createElement(name);
  other.append(...element.childNodes);
  element.replaceWith(other);
  return other;
}

/** Takes something away, and gives the words it held. */
function takeOut(element: Element): string {
  element.remove();
  return (element.textContent ?? '').replaceAll(/\s+/g, ' ').trim();
}
/** Words that were taken out, behind what is said of it. */
function named(words: readonly string[]): string {
  const some = words.filter(Boolean);
  return some.length === 0 ? '' : `: ${some.map((one) => `“${one}”`).join(', ')}`;
}

/** Comments of reviewers and deletions that were not accepted yet are no part of the text; insertions are. */
export function settleChanges(body: HTMLElement, told: Set<string>): void {
  // The words a comment is about stay; they stand in the reference to it.
  for (const element of body.querySelectorAll('[style*="mso-comment-reference"]')) unwrap(element);
  const comments: string[] = [];
  for (const element of body.querySelectorAll(
    '[style*="mso-element:comment"], .MsoCommentReference, .MsoCommentText, [id^="cmnt"], [href^="#cmnt"], annotation',
  )) {
    if (!element.isConnected) continue;
    // A comment's own text stands in a block with the way back to its place.
    const block = element.matches('[id^="cmnt"]:not([id^="cmnt_ref"])')
      ? element.closest('div, p')
      : element.closest('sup');
    comments.push(takeOut(block ?? element));
  }
  if (comments.length > 0) told.add(`Comments are left out${named(comments)}.`);
  const changed = body.querySelectorAll(
    'ins[cite], ins[datetime], del[cite], del[datetime], .msoDel, .msoIns, ins, [class*="msoIns"], [class*="msoDel"]',
  );
  const deleted: string[] = [];
  for (const element of body.querySelectorAll('del[cite], del[datetime], .msoDel, .msoDel del, [class*="msoDel"]'))
    if (element.isConnected) deleted.push(takeOut(element));
  // Beside tracked insertions a deletion is one, too, whoever wrote it.
  if (body.querySelector('ins')) for (const element of body.querySelectorAll('del')) deleted.push(takeOut(element));
  if (changed.length > 0) told.add(`Tracked changes are taken as accepted${named(deleted)}.`);
  for (const element of body.querySelectorAll('ins')) unwrap(element);
}

/** Footnotes become paragraphs at the end, and their marks plain words. */
export function settleFootnotes(body: HTMLElement, told: Set<string>): void {
  const marks = body.querySelectorAll(
    'a[href^="#_ftn"], a[href^="#_edn"], a[href^="#sdfootnote"], a[href^="#ftnt"], a.footnote-ref, [role="doc-noteref"]',
  );
  if (marks.length > 0) told.add('Footnotes stand as paragraphs at the end.');
  for (const mark of marks) {
    const text = (mark.textContent ?? '').trim();
    mark.replaceWith(/^\d+$/.test(text) ? `[${text}] ` : `${text} `);
  }
}

/** Marks before entries that a word processor wrote as such. */
export const MARKS = '[style*="mso-list:Ignore"], [style*="mso-list: Ignore"], [style*="mso-special-format"]';

const MARKER = /^\s*(?:([·•◦‣▪§●○\u2013\u2014-]|o(?=[\s\u00a0]))|(\d{1,3}|[a-z]|[ivx]{1,5})[.)])[\s\u00a0]+/i;

/**
 * Paragraphs that a word processor shows as a list, and paragraphs that begin like one, as lists with their levels.
 * Gives the marks that the lists show by themselves now.
 */
export function makeLists(body: HTMLElement, told: Set<string>): string {
  const marks: string[] = [];
  const styled = (p: Element) =>
    /mso-list:\s*(?!none|ignore)\S+\s+level(\d)/i.exec(styleOf(p)) ??
    // Slides mark each entry by itself.
    (p.querySelector(':scope > [style*="mso-special-format"]') ? ['', '1'] : null);
  const entryOf = (p: Element): Entry | null => {
    if (p.localName !== 'p' && p.localName !== 'div') return null;
    const level = Number(styled(p)?.[1] ?? 0);
    const [, bullet, number = /numbullet/.test(p.firstElementChild?.getAttribute('style') ?? '') ? '1' : undefined] =
      MARKER.exec(p.textContent ?? '') ?? [];
    const isMarked = bullet !== undefined || number !== undefined;
    return level > 0 || (isMarked && !p.querySelector(BLOCKS)) ? { level: Math.max(1, level), bullet, number } : null;
  };
  const dropMarker = (p: Element) => {
    const written = p.querySelectorAll(MARKS);
    for (const mark of written) mark.remove();
    if (written.length > 0) return;
    const walker = p.ownerDocument.createTreeWalker(p, NodeFilter.SHOW_TEXT);
    const first = walker.nextNode();
    if (first && MARKER.test(p.textContent ?? '')) {
      // The marker may be cut into several pieces of text.
      marks.push(MARKER.exec(p.textContent ?? '')?.[0] ?? '');
      let left = MARKER.exec(p.textContent ?? '')?.[0].length ?? 0;
      for (let node: Node | null = first; node && left > 0; node = walker.nextNode()) {
        const text = node.textContent ?? '';
        node.textContent = text.slice(left);
        left -= text.length;
      }
    }
  };
  for (const p of [...body.querySelectorAll('p, div')]) {
    if (!p.isConnected) continue;
    const first = entryOf(p);
    if (!first) continue;
    const run: (Entry & { p: Element; ordered: boolean })[] = [];
    for (let at: Element | null = p; at; at = at.nextElementSibling) {
      const entry = entryOf(at);
      if (!entry) break;
      const before = run.at(-1);
      if (styled(p) ? !styled(at) : before && (styled(at) || !goesOn(before, entry))) break;
      run.push({ p: at, ...entry, ordered: entry.number !== undefined });
    }
    // One line that begins with a dash or a number is no list, unless it is styled as one; nor are lines that begin with
    // letters (“A. Smith”), or a date (“3. May”).
    if (!styled(p) && (run.length < 2 || /^[a-z]/i.test(first.number ?? ''))) continue;
    if (run.some(({ number }) => /[a-z]/i.test(number ?? '')))
      told.add('Letters before entries of a list became numbers.');
    const root = makeList(p, first);
    p.before(root);
    const lists: { level: number; list: Element }[] = [{ level: first.level, list: root }];
    for (const { p: line, level, ordered, number } of run) {
      while (lists.length > 1 && (lists.at(-1)?.level ?? 0) > level) lists.pop();
      let list = lists.at(-1)?.list ?? root;
      if (level > (lists.at(-1)?.level ?? 0)) {
        const below = makeList(p, { number: ordered ? number : undefined });
        (list.lastElementChild ?? list).append(below);
        lists.push({ level, list: below });
        list = below;
      }
      dropMarker(line);
      const item = p.ownerDocument.createElement('li');
      const words = p.ownerDocument.createElement('p');
      words.append(...line.childNodes);
      item.append(words);
      list.append(item);
      line.remove();
    }
  }
  // A list directly in a list belongs to the entry before it.
  for (const list of body.querySelectorAll(':is(ul, ol) > :is(ul, ol)')) {
    const before = list.previousElementSibling;
    if (before?.localName === 'li') before.append(list);
    else {
      const item = list.ownerDocument.createElement('li');
      list.replaceWith(item);
      item.append(list.ownerDocument.createElement('p'), list);
    }
  }
  return marks.join(' ');
}

/** A line that stands as one entry of a list: on which level, and what stands before its words. */
interface Entry {
  level: number;
  bullet: string | undefined;
  number: string | undefined;
}

/** Whether a line goes on with the list of the one before: the same mark, or the next number. */
const goesOn = (before: Entry, next: Entry): boolean =>
  before.bullet !== undefined
    ? next.bullet === before.bullet
    : next.number !== undefined && Number(next.number) === Number(before.number) + 1;

/** An empty list beside an element; one with numbers begins with the number it has there. */
function makeList({ ownerDocument }: Element, { number }: Pick<Entry, 'number'>): HTMLElement {
  const list = ownerDocument.createElement(number === undefined ? 'ul' : 'ol');
  if (/^\d+$/.test(number ?? '') && number !== '1') list.setAttribute('start', String(number));
  return list;
}

/**
 * Tables as rows of single cells: captions before them, joined cells parted, one that only sets out a page taken apart.
 */
export function makeTables(body: HTMLElement, told: Set<string>): void {
  for (const table of [...body.querySelectorAll('table')].reverse()) {
    const rows = [...table.querySelectorAll('tr')].filter((row) => row.closest('table') === table);
    const cells = rows.map((row) => [...row.children].filter((cell) => /^(td|th)$/.test(cell.localName)));
    const caption = [...table.children].find((child) => child.localName === 'caption');
    if (caption) table.before(rename(caption, 'p'));
    const widest = Math.max(0, ...cells.map((row) => row.length));
    const full = cells.flat().filter((cell) => (cell.textContent ?? '').trim() !== '');
    if (widest <= 1 || full.length <= 1 || table.querySelector('table')) {
      for (const row of cells) for (const cell of row) table.before(rename(cell, 'div'));
      table.remove();
      continue;
    }
    // A grid as the cells say it is; what is joined stands in the first of its places.
    const grid: (Element | null)[][] = rows.map(() => []);
    let joined = false;
    cells.forEach((row, r) => {
      let c = 0;
      for (const cell of row) {
        while (grid[r]?.[c] !== undefined) c++;
        const [wide, high] = [
          Math.min(50, Number(cell.getAttribute('colspan') ?? 1) || 1),
          Math.min(rows.length - r, Number(cell.getAttribute('rowspan') ?? 1) || 1),
        ];
        if (wide > 1 || high > 1) joined = true;
        for (let y = 0; y < high; y++)
          for (let x = 0; x < wide; x++) (grid[r + y] ??= [])[c + x] = y === 0 && x === 0 ? cell : null;
        c += wide;
      }
    });
    if (joined) told.add('Joined cells are parted.');
    const width = Math.max(...grid.map((row) => row.length));
    const fresh = table.ownerDocument.createElement('table');
    grid.forEach((row, r) => {
      if (row.every((cell) => (cell?.textContent ?? '').trim() === '')) return;
      const tr = table.ownerDocument.createElement('tr');
      const head = rows[r]?.closest('thead') !== null || row.some((cell) => cell?.localName === 'th' && r === 0);
      for (let c = 0; c < width; c++) {
        const cell = row[c];
        const made = table.ownerDocument.createElement(head || cell?.localName === 'th' ? 'th' : 'td');
        if (cell) made.append(...cell.childNodes);
        if (!made.querySelector('p, ul, ol')) {
          const p = table.ownerDocument.createElement('p');
          p.append(...made.childNodes);
          made.append(p);
        }
        tr.append(made);
      }
      fresh.append(tr);
    });
    table.replaceWith(fresh);
  }
}

/** Headings that are so by their style only. */
export function makeHeadings(body: HTMLElement): void {
  for (const p of body.querySelectorAll('p, div')) {
    const outline = Number(
      /mso-outline-level:\s*(\d)/i.exec(styleOf(p))?.[1] ??
        (p.getAttribute('role') === 'heading' ? (p.getAttribute('aria-level') ?? 2) : 0),
    );
    const level = /^(MsoTitle|Title|title)$/.test(p.className)
      ? 1
      : /^(MsoSubtitle|Subtitle|subtitle)$/.test(p.className)
        ? 3
        : Number(/^(?:MsoHeading|Heading|heading)[-_ ]?(\d)/.exec(p.className)?.[1] ?? outline);
    if (level > 0 && level < 7 && (p.textContent ?? '').trim() !== '') rename(p, level <= 2 ? 'h2' : 'h3');
  }
  // The largest go one level down, lower ones up: a page has one title, and it is no part of the text.
  for (const [from, to] of [
    ['h1', 'h2'],
    ['h4', 'h3'],
    ['h5', 'h3'],
    ['h6', 'h3'],
  ] as const)
    for (const element of body.querySelectorAll(from)) rename(element, to);
}

/**
 * Lines that are paragraphs though no element says so: in mails and web pages, parted by elements without a meaning or
 * by two breaks.
 */
export function makeParagraphs(body: HTMLElement): void {
  for (const div of [...body.querySelectorAll('div, section, article, center, address, dd, dt')].reverse()) {
    if (
      !div.querySelector(BLOCKS) &&
      div.closest('li, td, th, [data-style]') === null &&
      !div.hasAttribute('data-style') &&
      !div.hasAttribute('data-unknown')
    )
      rename(div, 'p');
  }
  for (const p of [...body.querySelectorAll('p')]) {
    const breaks = [...p.children].filter(
      (child) =>
        child.localName === 'br' &&
        child.nextElementSibling?.localName === 'br' &&
        (child.nextSibling === child.nextElementSibling || (child.nextSibling?.textContent ?? '').trim() === ''),
    );
    for (const br of breaks) {
      if (br.parentElement !== p) continue;
      const before = p.ownerDocument.createElement('p');
      while (p.firstChild && p.firstChild !== br) before.append(p.firstChild);
      p.before(before);
      while (
        p.firstElementChild?.localName === 'br' &&
        (p.firstChild === p.firstElementChild || (p.firstChild?.textContent ?? '').trim() === '')
      ) {
        while (p.firstChild && p.firstChild !== p.firstElementChild) p.firstChild.remove();
        p.firstElementChild.remove();
      }
    }
  }
  for (const p of body.querySelectorAll('p, h2, h3'))
    if (
      (p.textContent ?? '').replaceAll('\u00a0', ' ').trim() === '' &&
      !p.querySelector('img[data-picture], br') &&
      p.closest('td, th, li, [data-style]') === null
    )
      p.remove();
}
