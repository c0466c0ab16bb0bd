import MiniSearch from 'minisearch';

/** A place that can be found by asking in plain words. */
export interface Findable {
  id: string;
  name: string;
  purpose: string;
  said: readonly string[];
}

const STOP_WORDS = new Set(['a', 'an', 'the', 'do', 'i', 'how', 'where', 'can', 'to', 'my', 'is', 'of', 'for', 'on', 'in', 'it', 'we', 'and', 'or', 'want']);

/**
 * An index of tasks and doors for "Where do I…?". Words people use count twice as much as the purpose; the
 * last word may be unfinished, and a longer word may hold typing errors (one letter in four).
 * Ranking: BM25+ as in the package `minisearch`.
 */
export function makeFinder<T extends Findable>(entries: readonly T[]): (asked: string) => T[] {
  const search = new MiniSearch<T & { words: string }>({
    fields: ['name', 'words', 'purpose'],
    processTerm: (term) => {
      const word = term.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '');
      return STOP_WORDS.has(word) ? null : word;
    },
  });
  search.addAll(entries.map((entry) => ({ ...entry, words: entry.said.join(' ') })));
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  return (asked) =>
    search
      .search(asked, { boost: { name: 3, words: 2 }, prefix: (term) => term.length > 2, fuzzy: (term) => (term.length > 4 ? 0.25 : false), combineWith: 'OR' })
      .map((hit) => byId.get(String(hit.id)))
      .filter((entry) => entry !== undefined)
      .slice(0, 6);
}
