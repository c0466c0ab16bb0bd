import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { Ability } from '@casl/ability';
import { newEnforcer, newModel, type Enforcer } from 'casbin';
import { AccessIndex, closure, covers, decide, type Bundle, type Policy } from '../../src/core/access';
import { makePolicyEngine } from '../oracles/engines';
import { makeBundle, opened, PERMISSIONS, randomFrom, instant, HOURS } from '../oracles/worlds';

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;
/** Memory in use. Buffers are given back by another thread, a moment after they are collected. */
const heapMb = async () => {
  for (let i = 0; i < 3; i++) {
    collect();
    await new Promise((later) => setTimeout(later, 100));
  }
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};
const timed = <T>(run: () => T): [T, number] => {
  const started = performance.now();
  const value = run();
  return [value, performance.now() - started];
};
const median = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;
/** Middle of several timings of one thing, in ms. */
const medianMs = (times: number, run: (i: number) => unknown) =>
  median(Array.from({ length: times }, (_, i) => timed(() => run(i))[1]));
const atMs = Date.parse(instant(HOURS / 2));

const SIZES = {
  S: { roles: 20, people: 50, pages: 500, grants: 8, timed: 0.03 },
  M: { roles: 100, people: 2_000, pages: 20_000, grants: 8, timed: 0.03 },
  L: { roles: 500, people: 20_000, pages: 200_000, grants: 8, timed: 0.03 },
};

/**
 * The ability library in its fastest form known to us: one ability a person, conditions as functions on page numbers.
 */
function loadAbilities(policy: Policy, index: AccessIndex): Ability[] {
  const { tree } = index;
  type Page = { n: number; layout: string; state: string; author: number };
  return index.people.map((person, p) => {
    const allows: object[] = [];
    const denies: object[] = [];
    for (const a of person.suspended ? [] : person.assignments) {
      if ((a.fromMs ?? -Infinity) > atMs || (a.untilMs ?? Infinity) <= atMs) continue;
      for (const { role } of closure(policy, a.role))
        for (const { effect, permission, scope } of role.grants) {
          const { own, layouts, states, only } = scope;
          const ranges = [a.branch, scope.branch].filter((b) => b !== undefined).map((b) => tree.interval(b) ?? [1, 0]);
          // A page alone: its own number is the first of its branch.
          const top = only && scope.branch !== undefined ? tree.interval(scope.branch)?.[0] : undefined;
          const isFree = ranges.length === 0 && !own && !layouts && !states;
          const fits = (page: Page) =>
            ranges.every(([lo, hi]) => page.n >= lo && page.n <= hi) &&
            (top === undefined || page.n === top) &&
            (!own || page.author === p) &&
            (!layouts || layouts.includes(page.layout)) &&
            (!states || states.includes(page.state as never));
          (effect === 'deny' ? denies : allows).push({
            action: permission.includes('*') ? PERMISSIONS.filter((one) => covers(permission, one)) : permission,
            subject: 'page',
            inverted: effect === 'deny',
            ...(!isFree && { conditions: fits }),
          });
        }
    }
    return new Ability([...allows, ...denies] as never, {
      conditionsMatcher: (fits: unknown) => fits as never,
      detectSubjectType: () => 'page',
    });
  });
}

/**
 * The enforcement library, given nothing but the lines of one person and one permission: the smallest slice there is.
 */
async function makeEnforcer(policy: Policy, index: AccessIndex, person: string, permission: string): Promise<Enforcer> {
  const model = newModel(`
[request_definition]
r = page, author
[policy_definition]
p = branch, limit, own, only, eft
[policy_effect]
e = some(where (p.eft == allow)) && !some(where (p.eft == deny))
[matchers]
m = under(r.page, p.branch) && under(r.page, p.limit) && (p.own == "no" || r.author == "${person}") && (p.only == "no" || first(r.page, p.branch))`);
  const enforcer = await newEnforcer(model);
  const spans = new Map<string, readonly [number, number]>();
  await enforcer.addFunction('under', (page: number, branch: string) => {
    if (branch === '') return true;
    const span = spans.get(branch) ?? index.tree.interval(branch) ?? ([1, 0] as const);
    spans.set(branch, span);
    return page >= span[0] && page <= span[1];
  });
  await enforcer.addFunction('first', (page: number, branch: string) => page === index.tree.interval(branch)?.[0]);
  const lines = new Set<string>();
  for (const a of policy.people.get(person)?.assignments ?? [])
    for (const { role } of closure(policy, a.role))
      for (const g of role.grants)
        if (covers(g.permission, permission))
          lines.add(
            [
              g.scope.branch ?? '',
              a.branch ?? '',
              g.scope.own ? 'yes' : 'no',
              g.scope.only ? 'yes' : 'no',
              g.effect,
            ].join('|'),
          );
  await enforcer.addPolicies([...lines].map((line) => line.split('|')));
  return enforcer;
}

const perSecond = (count: number, ms: number) => (count / ms) * 1000;
const rateWords = (rate: number) =>
  rate >= 1e6
    ? `${(rate / 1e6).toFixed(1)} M/s`
    : rate >= 1e3
      ? `${(rate / 1e3).toFixed(rate >= 1e5 ? 0 : 1)} k/s`
      : `${rate.toFixed(0)}/s`;
const msWords = (ms: number) =>
  ms >= 100 ? `${ms.toFixed(0)} ms` : ms >= 1 ? `${ms.toFixed(1)} ms` : `${(ms * 1000).toFixed(0)} µs`;

/** Measures access at three sizes beside three libraries from the registry; gives the table as Markdown. */
export async function measureAccess(): Promise<string> {
  const rows: string[][] = [
    ['what'],
    ['compiled index: load'],
    ['compiled index: memory'],
    ['compiled index: decisions'],
    ['ability library: load'],
    ['ability library: memory'],
    ['ability library: decisions'],
    ['**ratio of decisions, index to ability library**'],
    ['policy-language engine: decisions'],
    ['enforcement library: decisions'],
    ['readable `decide()` with its explanation'],
    ['who can do A on P, all people'],
    ['what can they, all actions × all pages'],
    ['one person recompiled'],
    ['one role changed, median of 15 roles'],
    ['one role changed, the most extended role'],
  ];
  for (const [name, size] of Object.entries(SIZES)) {
    const random = randomFrom(20261125);
    const bundle: Bundle = makeBundle(random, size);
    const { policy } = opened(bundle);
    const said: string[] = [
      `${name}: ${size.roles} roles, ${size.people.toLocaleString('en')} people, ${size.pages.toLocaleString('en')} pages`,
    ];

    const before = await heapMb();
    const [index, loadMs] = timed(() => new AccessIndex(policy, bundle.pages, PERMISSIONS));
    const memory = (await heapMb()) - before;
    const count = 2_000_000;
    const people = Int32Array.from({ length: count }, () => random.below(size.people));
    const actions = Int32Array.from({ length: count }, () => random.below(PERMISSIONS.length));
    const pages = Int32Array.from({ length: count }, () => 1 + random.below(size.pages));
    let allowed = 0;
    const ours = medianMs(5, () => {
      allowed = 0;
      for (let i = 0; i < count; i++)
        if (index.may(people[i] as number, actions[i] as number, pages[i] as number, atMs)) allowed++;
    });
    const rate = perSecond(count, ours);
    said.push(
      msWords(loadMs),
      `${memory.toFixed(1)} MB`,
      `${rateWords(rate)} (${((100 * allowed) / count).toFixed(0)} % allowed)`,
    );

    const beforeTheirs = await heapMb();
    const [abilities, theirLoadMs] = timed(() => loadAbilities(policy, index));
    const facts = Array.from({ length: size.pages + 1 }, (_, n) => ({
      n,
      layout: index.tree.classes[index.tree.classOf[n] as number]?.layout ?? '',
      state: index.tree.classes[index.tree.classOf[n] as number]?.state ?? '',
      author: index.tree.authors[n] as number,
    }));
    const fewer = 200_000;
    let theirs = 0;
    const theirMs = medianMs(3, () => {
      theirs = 0;
      for (let i = 0; i < fewer; i++)
        if (
          (abilities[people[i] as number] as Ability).can(
            PERMISSIONS[actions[i] as number] as string,
            facts[pages[i] as number] as never,
          )
        )
          theirs++;
    });
    let same = 0;
    for (let i = 0; i < fewer; i++)
      if (index.may(people[i] as number, actions[i] as number, pages[i] as number, atMs)) same++;
    if (same !== theirs) throw new Error(`the ability library allows ${theirs}, the index ${same} of ${fewer}`);
    const theirRate = perSecond(fewer, theirMs);
    said.push(
      msWords(theirLoadMs),
      `${((await heapMb()) - beforeTheirs).toFixed(0)} MB`,
      rateWords(theirRate),
      `**${(rate / theirRate).toFixed(0)} ×**`,
    );

    // Engines that take long: a few hundred questions about people with only what concerns them loaded.
    const some = Array.from({ length: 60 }, (_, i) => i);
    const engines = some.map((i) => {
      const person = bundle.people[people[i] as number] as Bundle['people'][number];
      const held = new Set(person.assignments.flatMap((a) => closure(policy, a.role).map((c) => c.role.id)));
      const page = index.tree.id(pages[i] as number);
      const byId = new Map(bundle.pages.map((p) => [p.id, p]));
      const above: Bundle['pages'] = [];
      for (let up = byId.get(page); up; up = up.parent === null ? undefined : byId.get(up.parent)) above.push(up);
      const ask = makePolicyEngine({
        ...bundle,
        roles: bundle.roles.filter((r) => held.has(r.id)),
        people: [person],
        pages: above,
      });
      const question = {
        person: person.id,
        permission: PERMISSIONS[actions[i] as number] as string,
        page,
        at: instant(HOURS / 2),
        hour: HOURS / 2,
      };
      ask(question);
      return () => ask(question);
    });
    const [, policyMs] = timed(() => {
      for (let round = 0; round < 4; round++) for (const ask of engines) ask();
    });
    said.push(rateWords(perSecond(engines.length * 4, policyMs)));
    const enforcers = await Promise.all(
      some.map((i) =>
        makeEnforcer(
          policy,
          index,
          (bundle.people[people[i] as number] as Bundle['people'][number]).id,
          PERMISSIONS[actions[i] as number] as string,
        ),
      ),
    );
    const [, enforceMs] = timed(() => {
      for (let round = 0; round < 4; round++) enforcers.forEach((e, i) => e.enforceSync(pages[i], ''));
    });
    said.push(rateWords(perSecond(enforcers.length * 4, enforceMs)));
    const parents = new Map(bundle.pages.map((p) => [p.id, p]));
    const asked = Array.from({ length: 2_000 }, (_, i) => {
      const path: string[] = [];
      for (
        let up = parents.get(index.tree.id(pages[i] as number));
        up;
        up = up.parent === null ? undefined : parents.get(up.parent)
      )
        path.unshift(up.id);
      const page = parents.get(path.at(-1) ?? '');
      return {
        person: index.people[people[i] as number]?.id ?? '',
        permission: PERMISSIONS[actions[i] as number] as string,
        place: { path, layout: page?.layout ?? '', state: page?.state as never, author: page?.author ?? null },
        atMs,
      };
    });
    said.push(
      rateWords(
        perSecond(
          asked.length,
          medianMs(3, () => asked.forEach((q) => decide(policy, q))),
        ),
      ),
    );

    said.push(
      msWords(medianMs(200, (i) => index.whoCan(actions[i] as number, pages[i] as number, atMs))),
      msWords(medianMs(200, (i) => index.whatCan(people[i] as number, atMs))),
    );
    said.push(
      msWords(
        medianMs(300, (i) => index.recompilePerson(index.people[people[i] as number] as (typeof index.people)[number])),
      ),
    );
    const roles = [...policy.roles.values()];
    const reach = (id: string) => roles.filter((r) => closure(policy, r.id).some((c) => c.role.id === id)).length;
    said.push(
      msWords(medianMs(15, (i) => index.recompileRole(roles[(i * 37) % roles.length] as (typeof roles)[number]))),
    );
    const most = roles.slice(0, 40).toSorted((a, b) => reach(b.id) - reach(a.id))[0] as (typeof roles)[number];
    said.push(`${msWords(medianMs(3, () => index.recompileRole(most)))} (${reach(most.id)} roles)`);
    said.forEach((text, i) => rows[i]?.push(text));
    console.log(said.join('\n  '));
  }
  const [head, ...body] = rows.map((row) => `| ${row.join(' | ')} |`);
  return [head, '|---|---|---|---|', ...body].join('\n');
}
