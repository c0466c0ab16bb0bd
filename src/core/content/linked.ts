/** Something of this website that a link leads to, whatever its address is. */
export interface LinkedThing {
  kind: 'page' | 'picture';
  id: string;
  /** What follows its address: `?of=…`, `#…`. */
  rest: string;
}

const NAMED = /^(page|picture):(\d{1,9})((?:[?#]\S*)?)$/;

/** What a kept link names, `page:12#winter`; undefined for one that leads elsewhere. */
export function thingOf(href: string): LinkedThing | undefined {
  const [, kind, id, rest] = NAMED.exec(href) ?? [];
  return kind === 'page' || kind === 'picture' ? { kind, id: id ?? '', rest: rest ?? '' } : undefined;
}

/** Said where somebody can give such a link another end, when what it names was deleted. */
export const LINK_GONE = 'What it led to is not there any more. Choose another page, or take the link away.';
