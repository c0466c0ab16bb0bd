import MiniSearch from 'minisearch';
import { stemmer } from 'stemmer';
import { fold } from '../words';
import { SYNONYMS } from './synonyms';

export type AskKind = 'task' | 'door' | 'screen' | 'control' | 'widget' | 'tool';

/** A place that can be found by asking in plain words. */
export interface Findable {
  id: string;
  kind: AskKind;
  name: string;
  purpose: string;
  /** Further words people use for it. */
  said: readonly string[];
  /** Whether whoever asks may do it. */
  may: boolean;
  /** One of their own tasks. */
  ticked?: true;
}

const STOP_WORDS = new Set(
  'a an the do does did i me my we us our you your it its is are am be was were been has have had how where what which when why can could may might shall should will would want wants need needs must to of for on in at by with from into onto and or but so that this these those there here please just some any somebody something someone anybody thing things way let lets get got'.split(
    ' ',
  ),
);
/** What nearly everything here is about says little of which of it is meant. */
const COMMON = new Map(
  ['page', 'pages', 'website', 'site', 'web', 'people', 'visitors', 'make', 'put', 'add'].map((word) => [
    stemmer(word),
    0.4,
  ]),
);
/** A phrase may have a few words in between: “throw a page away”. */
const MOST_BETWEEN = 2;
const KIND_WEIGHT: Record<AskKind, number> = {
  task: 1.7,
  door: 0.95,
  screen: 0.7,
  control: 0.75,
  widget: 0.75,
  tool: 0.7,
};
/** What somebody may not do is found, too, behind the like of it that they may. */
const MAY_NOT_WEIGHT = 0.85;
/** What fits so much less than the best is not worth reading. */
const FAINT = 0.2;
/** One's own tasks, in the words of one's own room, come first. */
const OWN_WEIGHT = 1.2;
/** What is called by its name. */
const NAMED_WEIGHT = 2;
const SYNONYM_WEIGHT = 0.5;

const plain = (text: string) =>
  fold(text)
    .replaceAll(/[’']s\b/g, '')
    .replaceAll(/[’']/g, '');
const wordsOf = (text: string) => plain(text).match(/[\p{L}\p{N}]+/gu) ?? [];
const stemsOf = (text: string) =>
  wordsOf(text)
    .filter((word) => !STOP_WORDS.has(word))
    .map((word) => stemmer(word));
const groups = SYNONYMS.map((members) =>
  members.map((member) => ({ all: wordsOf(member).map((word) => stemmer(word)), stems: stemsOf(member) })),
);

/** The words of the groups, to know one again that is typed wrongly. */
const spelled = new MiniSearch<{ id: string; word: string }>({
  fields: ['word'],
  storeFields: ['word'],
  tokenize: (text) => [text],
  processTerm: (term) => term,
});
const inGroups = new Set(groups.flat().flatMap((member) => member.all));
spelled.addAll([...inGroups].filter((stem) => stem.length > 4).map((word) => ({ id: word, word })));
const rightly = (stem: string): string =>
  stem.length < 5 || inGroups.has(stem) ? stem : String(spelled.search(stem, { fuzzy: 1 })[0]?.id ?? stem);

/**
 * The stems of a question, and those of what else is called so, each with its weight. A member of several words must
 * stand there as it is.
 */
function termsOf(asked: string): Map<string, number> {
  const all = wordsOf(asked).map((word) => rightly(stemmer(word)));
  const last = wordsOf(asked).at(-1) ?? '';
  const own = stemsOf(asked);
  const weights = new Map(own.map((stem) => [stem, own.length > 1 ? (COMMON.get(stem) ?? 1) : 1]));
  const stands = (member: readonly string[]) => {
    let at = -1;
    return member.every((stem) => {
      // The last word may be unfinished.
      const next = all.findIndex(
        (one, i) => i > at && (one === stem || (i === all.length - 1 && last.length > 1 && stem.startsWith(last))),
      );
      const near = next >= 0 && (at < 0 || next - at <= MOST_BETWEEN + 1);
      at = next;
      return near;
    });
  };
  for (const group of groups) {
    const here = group.filter((member) => member.all.length > 0 && stands(member.all));
    if (here.length === 0) continue;
    // A phrase says what is meant better than any one of its words.
    const phrase = here.some((member) => member.all.length > 1);
    // What says little itself says little by what else it is called.
    const heard = Math.max(
      ...here.map((member) => (member.all.length > 1 ? 1 : (weights.get(member.all[0] ?? '') ?? 1))),
    );
    for (const member of group)
      for (const stem of member.stems)
        if (!weights.has(stem) || (weights.get(stem) ?? 0) < SYNONYM_WEIGHT)
          weights.set(
            stem,
            Math.max(
              weights.get(stem) ?? 0,
              (heard * (phrase ? 1.3 : 1) * SYNONYM_WEIGHT) / Math.sqrt(member.stems.length),
            ),
          );
  }
  return weights;
}

/**
 * An index of all that can be asked for by "Where do I…?", in words of one's own. Words are stemmed (Porter's
 * algorithm, M. F. Porter, "An algorithm for suffix stripping", 1980, by the package `stemmer`) and asked with their
 * synonyms; the last word may be unfinished, a longer one may hold typing errors (one letter, in long ones two).
 * Ranking: BM25+ by the package `minisearch`; tasks before doors, doors before single controls; what was chosen for a
 * question before comes first. `learned`: question → what was chosen.
 */
export function makeFinder<T extends Findable>(
  entries: readonly T[],
  learned: Readonly<Record<string, string>> = {},
): (asked: string, most?: number) => T[] {
  const search = new MiniSearch<{ key: string; name: string; words: string; purpose: string }>({
    idField: 'key',
    fields: ['name', 'words', 'purpose'],
    tokenize: (text) => wordsOf(text),
    processTerm: (term) => (STOP_WORDS.has(term) ? null : stemmer(term)),
  });
  const byKey = new Map(entries.map((entry) => [`${entry.kind} ${entry.id}`, entry]));
  search.addAll(
    [...byKey].map(([key, entry]) => ({ key, name: entry.name, words: entry.said.join(' '), purpose: entry.purpose })),
  );
  // What it is called: its name, and whatever else of several words people say for it.
  const names = new Map(
    entries.map((entry) => [
      entry,
      [stemsOf(entry.name), ...entry.said.map(stemsOf).filter((stems) => stems.length > 1)],
    ]),
  );
  return (asked, most = 6) => {
    const weights = termsOf(asked);
    const typing = stemmer(wordsOf(asked).at(-1) ?? '');
    const chosen = byKey.get(learned[questionOf(asked)] ?? '');
    const own = new Set(stemsOf(asked));
    const isNamed = (entry: T) =>
      (names.get(entry) ?? []).some((name) => name.length > 0 && name.every((stem) => own.has(stem)));
    const hits = search.search([...weights.keys()].join(' '), {
      tokenize: (text) => text.split(' '),
      processTerm: (term) => term,
      boost: { name: 2.2, words: 2, purpose: 1.2 },
      boostTerm: (term) => weights.get(term) ?? 1,
      prefix: (term) => term.length > 2 && (term === typing || (weights.get(term) ?? 0) >= 1),
      fuzzy: (term) => (term.length > 4 && (weights.get(term) ?? 0) >= 1 ? (term.length > 8 ? 2 : 1) : false),
      boostDocument: (key: string) => {
        const entry = byKey.get(key);
        return entry
          ? KIND_WEIGHT[entry.kind] *
              (entry.may ? 1 : MAY_NOT_WEIGHT) *
              (entry.ticked ? OWN_WEIGHT : 1) *
              (isNamed(entry) ? NAMED_WEIGHT : 1)
          : 1;
      },
      combineWith: 'OR',
    });
    const best = hits[0]?.score ?? 0;
    const found = hits
      .filter((hit) => hit.score >= FAINT * best)
      .map((hit) => byKey.get(String(hit.id)))
      .filter((entry) => entry !== undefined);
    return [...new Set([...(chosen ? [chosen] : []), ...found])].slice(0, most);
  };
}

/** A question without what makes no difference, so that it is known again. */
export const questionOf = (asked: string): string => [...new Set(stemsOf(asked))].sort().join(' ');
