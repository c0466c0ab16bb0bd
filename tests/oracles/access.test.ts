import { describe, expect, it } from 'vitest';
import { AccessIndex, countBits, decide, NOWHERE, readQuestion, rulesAllow, rulesFor } from '@/core/access';
import { factsOf, makeAbilities, makePolicyEngine, solve } from './engines';
import { referenceAllows } from './reference';
import { makeBundle, makeQuestion, opened, PERMISSIONS, randomFrom } from './worlds';

const SEED = 20261125;
const WORLDS = 1200;
const QUESTIONS = 8;

/** Small random worlds with their questions, each world from a seed of its own that a failure names. */
const worlds = Array.from({ length: WORLDS }, (_, w) => {
  const random = randomFrom(SEED + w);
  const bundle = makeBundle(random, {
    roles: 1 + random.below(6),
    people: 1 + random.below(4),
    pages: 1 + random.below(12),
    grants: 4,
  });
  const bundled = opened(bundle);
  const asked = Array.from({ length: QUESTIONS }, () => makeQuestion(random, bundle));
  const answers = asked.map((one) => {
    const { hour: _, ...question } = one;
    const read = readQuestion(bundled, question);
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return { asked: one, question: read.question, decision: decide(bundled.policy, read.question) };
  });
  return { seed: SEED + w, bundle, bundled, answers };
});

/** Every question on which another program answers otherwise, each with the seed that makes its world again. */
type Answered = (typeof worlds)[number]['answers'][number];
const differing = (some: typeof worlds, allows: (w: (typeof worlds)[number]) => (a: Answered) => boolean): string[] =>
  some.flatMap((w) => {
    const ask = allows(w);
    return w.answers
      .filter((a) => ask(a) !== a.decision.allowed)
      .map((a) => `seed ${w.seed}, ${JSON.stringify(a.asked)}: we say ${a.decision.allowed}`);
  });

describe('decide() against independent programs, on the same thousands of questions', () => {
  it('the worlds hold enough of every outcome to tell something', () => {
    const reasons = worlds.flatMap((w) => w.answers.map((a) => a.decision.reason));
    const count = (reason: string) => reasons.filter((r) => r === reason).length;
    expect(reasons).toHaveLength(WORLDS * QUESTIONS);
    expect(count('allowed')).toBeGreaterThan(800);
    expect(count('denied')).toBeGreaterThan(400);
    expect(count('suspended')).toBeGreaterThan(100);
    const missed = new Set(worlds.flatMap((w) => w.answers.map((a) => a.decision.nearest?.missed)));
    for (const miss of ['time', 'assignment-branch', 'branch', 'layouts', 'states', 'own', 'fields'] as const)
      expect(missed, miss).toContain(miss);
  });
  it('the logic solver', async () => {
    const batch = 250;
    for (let from = 0; from < worlds.length; from += batch) {
      const part = worlds.slice(from, from + batch);
      const facts = part
        .map((w, i) =>
          factsOf(
            w.bundle,
            w.answers.map((a) => a.asked),
            i,
            i * QUESTIONS,
          ),
        )
        .join('\n');
      expect(facts.length).toBeLessThan(1_000_000);
      const allowed = await solve(facts);
      part.forEach((w, i) =>
        w.answers.forEach((a, k) =>
          expect(a.decision.allowed, `seed ${w.seed}, ${JSON.stringify(a.asked)}`).toBe(allowed.has(i * QUESTIONS + k)),
        ),
      );
    }
  });
  it('the policy-language engine', () => {
    expect(
      differing(
        worlds.filter((_, i) => i % 2 === 0),
        (w) => {
          const allows = makePolicyEngine(w.bundle);
          return (a) => allows(a.asked);
        },
      ),
    ).toEqual([]);
  });
  it('the ability library', () => {
    expect(
      differing(worlds, (w) => {
        const allows = makeAbilities(w.bundled);
        return (a) => allows(a.asked);
      }),
    ).toEqual([]);
  });
  it('the plain reference', () => {
    expect(differing(worlds, (w) => (a) => referenceAllows(w.bundled.policy, a.question))).toEqual([]);
  });
});

describe('what is made for speed answers like decide()', () => {
  it('rules for lists', () => {
    expect(
      differing(
        worlds,
        ({ bundled }) =>
          ({ question: { person, permission, place, author, field, atMs } }) =>
            rulesAllow(rulesFor(bundled.policy, person ?? '', permission, atMs), person ?? '', {
              place,
              author,
              field,
            }),
      ),
    ).toEqual([]);
  });
  it('the compiled index: one question, all people, all pages', () => {
    const indexes = new Map(worlds.map((w) => [w, new AccessIndex(w.bundled.policy, w.bundle.pages, PERMISSIONS)]));
    const numbered = (w: (typeof worlds)[number], a: Answered) => {
      const index = indexes.get(w) as AccessIndex;
      return {
        index,
        person: index.person(a.asked.person),
        permission: index.permission(a.asked.permission),
        page: a.asked.page === undefined ? NOWHERE : index.page(a.asked.page),
        author: a.asked.page === undefined ? index.person(a.asked.thing?.author ?? '') : undefined,
        at: a.question.atMs,
      };
    };
    // It knows things as wholes: whether one may change anything of a page.
    const whole = worlds.map((w) => ({ ...w, answers: w.answers.filter((a) => a.asked.field === undefined) }));
    const placed = whole.map((w) => ({ ...w, answers: w.answers.filter((a) => a.asked.page !== undefined) }));
    for (const some of [whole, placed])
      some.forEach((w, i) => indexes.set(w, indexes.get(worlds[i] as never) as AccessIndex));
    expect(
      differing(whole, (w) => (a) => {
        const n = numbered(w, a);
        return n.index.may(n.person, n.permission, n.page, n.at, n.author);
      }),
    ).toEqual([]);
    expect(
      differing(placed, (w) => (a) => {
        const n = numbered(w, a);
        return n.index.whoCan(n.permission, n.page, n.at).includes(n.person);
      }),
    ).toEqual([]);
    expect(
      differing(placed, (w) => (a) => {
        const n = numbered(w, a);
        return countBits(n.index.whatCan(n.person, n.at)[n.permission] ?? new Uint32Array(), n.page, n.page) === 1;
      }),
    ).toEqual([]);
  });
  it('the compiled index, whole and after changes, against the reference on every person, permission and page', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = randomFrom(seed);
      const size = { roles: 6, people: 5, pages: 40, grants: 4 };
      const bundle = makeBundle(random, size);
      const { policy } = opened(bundle);
      const index = new AccessIndex(policy, bundle.pages, PERMISSIONS);
      const people = new Map(policy.people);
      const roles = new Map(policy.roles);
      const wrong: string[] = [];
      const check = () => {
        const now = opened(bundle);
        for (const id of people.keys())
          for (const permission of PERMISSIONS)
            for (const page of bundle.pages.filter((_, i) => i % 7 === seed % 7)) {
              const read = readQuestion(now, { person: id, permission, page: page.id, at: '2026-01-01T12:00:00Z' });
              if (!read.ok) throw new Error('a question was not read');
              const allowed = referenceAllows({ ...policy, people, roles }, read.question);
              if (
                index.may(index.person(id), index.permission(permission), index.page(page.id), read.question.atMs) !==
                allowed
              )
                wrong.push(`seed ${seed}: ${id} ${permission} ${page.id}`);
            }
      };
      check();
      const other = opened(makeBundle(random, size)).policy;
      const person = { ...(other.people.get('u2') ?? { name: '', assignments: [] }), id: 'u1' };
      people.set('u1', person);
      index.recompilePerson(person);
      check();
      const role = { ...(other.roles.get('r0') ?? { name: '', extends: [], grants: [] }), id: 'r0' };
      roles.set('r0', role);
      index.recompileRole(role);
      check();
      expect(wrong).toEqual([]);
    }
  });
});
