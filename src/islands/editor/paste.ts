/** What pasted HTML holds that a text has no place for, in plain words, so that nothing goes without being told. */

const KEPT = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'ul', 'ol', 'li', 'blockquote', 'table', 'tbody', 'thead', 'tfoot', 'tr', 'th', 'td', 'strong', 'b', 'em', 'i', 'a', 'br', 'colgroup', 'col', 'div', 'span', 'img', 'caption']);
/** Elements that say nothing by themselves: their going is not worth a word. */
const SILENT = new Set(['html', 'head', 'body', 'meta', 'link', 'title', 'style', 'script', 'font', 'section', 'article', 'main', 'header', 'footer', 'nav', 'aside', 'figure', 'figcaption', 'small', 'center', 'o:p', 'xml']);
const NAMES: Record<string, string> = {
  img: 'pictures', video: 'films', audio: 'sound', iframe: 'parts of other websites', form: 'forms', input: 'forms', button: 'forms', select: 'forms', textarea: 'forms',
  u: 'underlining', s: 'struck-through words', del: 'struck-through words', sup: 'raised letters', sub: 'lowered letters', code: 'code', pre: 'code', hr: 'lines', svg: 'drawings', canvas: 'drawings', mark: 'marked words',
};

/** Names of what goes when HTML is pasted or read from the code view; parsed inertly, nothing in it runs. */
export function whatIsDropped(html: string): string[] {
  const parsed = new DOMParser().parseFromString(html, 'text/html');
  const dropped = new Set<string>();
  for (const element of parsed.body.querySelectorAll('*')) {
    const name = element.localName;
    if (name === 'img' ? element.hasAttribute('data-picture') : KEPT.has(name)) {
      if (element.hasAttribute('style') && /(?:^|;)\s*(?:color|background|font|text-align)/i.test(element.getAttribute('style') ?? '')) dropped.add('colours and fonts');
      continue;
    }
    if (SILENT.has(name)) continue;
    dropped.add(NAMES[name] ?? `<${name}>`);
  }
  return [...dropped].sort();
}

/** Pasted HTML with what can be kept in another form changed into it: the largest headings one level down, lower ones up. */
export function tidied(html: string): string {
  const parsed = new DOMParser().parseFromString(html, 'text/html');
  for (const [from, to] of [['h1', 'h2'], ['h4', 'h3'], ['h5', 'h3'], ['h6', 'h3']] as const)
    for (const element of parsed.body.querySelectorAll(from)) {
      const heading = parsed.createElement(to);
      heading.append(...element.childNodes);
      element.replaceWith(heading);
    }
  return parsed.body.innerHTML;
}
