import { diff3Merge } from 'node-diff3';
import { canonical } from '../json';
import type { Document, DocumentNode } from './document';
import type { Layout } from './layout';
import type { PageContent } from './value';
import { SETTINGS } from './settings';
import { sameValue } from './values';

/** A place both changed, each in their own way: the field it is in, and what each says there. */
export interface Clash {
  id: string;
  field: string;
  name: string;
  mine: PageContent;
  theirs: PageContent;
}
export interface Merged {
  /** Both changes together; where they clash, what `mine` says. */
  content: PageContent;
  clashes: Clash[];
  /** The content with some clashes, by id, decided for `theirs`. */
  choose: (theirs: ReadonlySet<string>) => PageContent;
}

type Chunk = { same: DocumentNode[] } | { clash: string; mine: DocumentNode[]; theirs: DocumentNode[] };
const isDocument = (value: unknown): value is Document =>
  typeof value === 'object' && value !== null && 'type' in value && value.type === 'doc';

/**
 * A text as chunks on which both agree, and chunks where they clash, block by block. Blocks that stand one below the
 * other and were changed by one of the two each do not clash, though a merge of lines would say so: where as many
 * blocks are there as were, each is asked for by itself.
 */
function mergeBlocks(field: string, base: Document, mine: Document, theirs: Document): Chunk[] {
  const blocks = new Map<string, DocumentNode>();
  const keys = (document: Document) =>
    document.content.map((node) => {
      const key = canonical(node);
      blocks.set(key, node);
      return key;
    });
  const back = (list: readonly string[]) => list.map((key) => blocks.get(key)).filter((node) => node !== undefined);
  return diff3Merge(keys(mine), keys(base), keys(theirs), { excludeFalseConflicts: true }).flatMap(
    (part, i): Chunk[] => {
      if (part.ok) return [{ same: back(part.ok) }];
      const { a = [], o = [], b = [] } = part.conflict ?? {};
      if (a.length !== o.length || b.length !== o.length)
        return [{ clash: `${field}#${i}`, mine: back(a), theirs: back(b) }];
      return o.map((was, k): Chunk => {
        const [mine = was, theirs = was] = [a[k], b[k]];
        return mine === theirs || theirs === was
          ? { same: back([mine]) }
          : mine === was
            ? { same: back([theirs]) }
            : { clash: `${field}#${i}.${k}`, mine: back([mine]), theirs: back([theirs]) };
      });
    },
  );
}

const documentOfChunks = (chunks: readonly Chunk[], theirs: ReadonlySet<string>): Document => {
  const content = chunks.flatMap((chunk) =>
    'same' in chunk ? chunk.same : theirs.has(chunk.clash) ? chunk.theirs : chunk.mine,
  );
  return { type: 'doc', content: content.length > 0 ? content : [{ type: 'paragraph' }] };
};

/**
 * Two people's changes to the same page put together: fields only one of them changed, and blocks of a text that do not
 * touch (three-way merge of block lists, S. Khanna, K. Kunal, B. Pierce, "A formal investigation of diff3", 2007, by
 * the package `node-diff3`). What both changed differently is a clash.
 */
export function mergeContent(layout: Layout, base: PageContent, mine: PageContent, theirs: PageContent): Merged {
  const names = new Map([...layout.fields, ...SETTINGS].map((field) => [field.id, field.name]));
  const clashes: Clash[] = [];
  const chunked = new Map<string, Chunk[]>();
  const content: PageContent = {};
  for (const id of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
    const [b, m, t] = [base[id], mine[id], theirs[id]];
    const name = names.get(id) ?? id;
    if (sameValue(m, t) || sameValue(t, b)) content[id] = m ?? null;
    else if (sameValue(m, b)) content[id] = t ?? null;
    else if (isDocument(m) && isDocument(t) && isDocument(b)) {
      const chunks = mergeBlocks(id, b, m, t);
      chunked.set(id, chunks);
      content[id] = documentOfChunks(chunks, new Set());
      for (const chunk of chunks)
        if ('clash' in chunk)
          clashes.push({
            id: chunk.clash,
            field: id,
            name,
            mine: { [id]: { type: 'doc', content: chunk.mine } },
            theirs: { [id]: { type: 'doc', content: chunk.theirs } },
          });
    } else {
      content[id] = m ?? null;
      clashes.push({ id, field: id, name, mine: { [id]: m ?? null }, theirs: { [id]: t ?? null } });
    }
  }
  const choose = (chosen: ReadonlySet<string>): PageContent => ({
    ...content,
    ...Object.fromEntries(
      clashes
        .filter((clash) => chosen.has(clash.id) && !chunked.has(clash.field))
        .map((clash) => [clash.field, clash.theirs[clash.field] ?? null]),
    ),
    ...Object.fromEntries([...chunked].map(([id, chunks]) => [id, documentOfChunks(chunks, chosen)])),
  });
  return { content, clashes, choose };
}
