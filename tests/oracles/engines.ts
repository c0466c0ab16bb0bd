import { setFlagsFromString } from 'node:v8';
import { createMongoAbility, subject, type MongoAbility, type RawRuleOf } from '@casl/ability';
import { closure, covers, type Bundle, type Opened } from '@/core/access';
import { HOURS, PERMISSIONS, type AskedOf } from './worlds';

// The WebAssembly of the policy-language engine aborts Node.js 20 under load without this; before it is loaded.
setFlagsFromString('--no-turbo-inline-js-wasm-calls');
const cedar = await import('@cedar-policy/cedar-wasm/nodejs');
const clingo = await import('clingo-wasm');

const hourOf = (instant: string | undefined) =>
  instant === undefined ? undefined : (Date.parse(instant) - Date.UTC(2026, 0, 1)) / 3_600_000;

/**
 * The logic solver (answer set programming, clingo). The whole model is the rules of `RULES`; each world gives only
 * facts, so that closure, branches, times, conditions and "deny wins" are all the solver's own. Not asked: doors, the
 * two-person rule, a page's own rights for visitors, and things with an author of their own that lie on pages.
 */
const RULES = `
reach(R,R) :- role(R).            reach(R,S) :- extends(R,T), reach(T,S).
under(P,P) :- page(P,_,_,_).      under(P,Q) :- parent(P,M), under(M,Q).
covers(G,Q) :- pattern(G,any), asks(Q,_,_,_,_).
covers(G,Q) :- pattern(G,O), asks(Q,_,O,_,_).      covers(G,Q) :- exact(G,O,V), asks(Q,_,O,V,_).
lies(Q,B) :- on(Q,P), under(P,B).
inforce(Q,A) :- asks(Q,U,_,_,T), holds(U,A,_), not suspended(U), from(A,F), until(A,L), F <= T, T < L.
there(Q,A) :- inforce(Q,A), not limited(A).        there(Q,A) :- inforce(Q,A), not on(Q,_).
there(Q,A) :- inforce(Q,A), limit(A,B), lies(Q,B).
off(Q,G) :- covers(G,Q), within(G,B), not lies(Q,B).
off(Q,G) :- covers(G,Q), alone(G,B), not on(Q,B).
off(Q,G) :- covers(G,Q), own(G), not mine(Q).
off(Q,G) :- covers(G,Q), somelayout(G), not goodlayout(Q,G).   goodlayout(Q,G) :- on(Q,P), page(P,L,_,_), layout(G,L).
off(Q,G) :- covers(G,Q), somestate(G), not goodstate(Q,G).     goodstate(Q,G) :- on(Q,P), page(P,_,S,_), state(G,S).
off(Q,G) :- covers(G,Q), field(Q,F), somefield(G), not goodfield(G,F).
mine(Q) :- on(Q,P), page(P,_,_,U), asks(Q,U,_,_,_).           mine(Q) :- not on(Q,_), by(Q,U), asks(Q,U,_,_,_).
limited(A) :- limit(A,_).
applies(Q,E) :- there(Q,A), holds(_,A,R), reach(R,S), grant(G,S,E), covers(G,Q), not off(Q,G).
allowed(Q) :- applies(Q,allow), not applies(Q,deny).
#show allowed/1.
`;

/**
 * Facts of one world with its questions; `w` keeps worlds in one program apart, `q` is the number of the first
 * question.
 */
export function factsOf(bundle: Bundle, questions: readonly AskedOf[], w: number, q: number): string {
  const out: string[] = [];
  const of = (id: string) => `w${w}${id}`;
  let g = 0;
  let a = 0;
  for (const role of bundle.roles) {
    out.push(`role(${of(role.id)}).`, ...role.extends.map((parent) => `extends(${of(role.id)},${of(parent)}).`));
    for (const { effect, permission, scope } of role.grants) {
      const id = `${of('g')}${g++}`;
      const [object, verb] = permission.split('.');
      out.push(
        `grant(${id},${of(role.id)},${effect}).`,
        verb === undefined
          ? `pattern(${id},any).`
          : verb === '*'
            ? `pattern(${id},${object}).`
            : `exact(${id},${object},${verb}).`,
      );
      if (scope.branch) out.push(`${scope.only ? 'alone' : 'within'}(${id},${of(scope.branch)}).`);
      if (scope.own) out.push(`own(${id}).`);
      if (scope.layouts) out.push(`somelayout(${id}).`, ...scope.layouts.map((l) => `layout(${id},${l}).`));
      if (scope.fields) out.push(`somefield(${id}).`, ...scope.fields.map((f) => `goodfield(${id},${f}).`));
      if (scope.states) out.push(`somestate(${id}).`, ...scope.states.map((s) => `state(${id},${s}).`));
    }
  }
  for (const page of bundle.pages)
    out.push(
      `page(${of(page.id)},${page.layout},${page.state},${of(page.author)}).`,
      ...(page.parent ? [`parent(${of(page.id)},${of(page.parent)}).`] : []),
    );
  for (const person of bundle.people) {
    if (person.suspended) out.push(`suspended(${of(person.id)}).`);
    for (const { role, branch, from, until } of person.assignments) {
      const id = `${of('a')}${a++}`;
      out.push(
        `holds(${of(person.id)},${id},${of(role)}).`,
        `from(${id},${hourOf(from) ?? -1}).`,
        `until(${id},${hourOf(until) ?? HOURS + 1}).`,
        ...(branch ? [`limit(${id},${of(branch)}).`] : []),
      );
    }
  }
  questions.forEach((asked, i) => {
    const [object, verb] = asked.permission.split('.');
    out.push(`asks(${q + i},${of(asked.person)},${object},${verb},${asked.hour}).`);
    if (asked.field) out.push(`field(${q + i},${asked.field}).`);
    if (asked.page) out.push(`on(${q + i},${of(asked.page)}).`);
    if (asked.thing?.author) out.push(`by(${q + i},${of(asked.thing.author)}).`);
  });
  return out.join('\n');
}

/** The numbers of the questions that the solver allows. */
export async function solve(facts: string): Promise<Set<number>> {
  const result = await clingo.run(RULES + facts, 1, ['--warn=none']);
  if (!('Call' in result)) throw new Error(JSON.stringify(result).slice(0, 500));
  return new Set((result.Call[0]?.Witnesses?.[0]?.Value ?? []).map((atom) => Number(/\d+/.exec(atom)?.[0])));
}

/**
 * The policy-language engine (Cedar). One policy for each assignment × grant; roles, pages and their order are
 * entities, and closure, branches, conditions, times and "forbid overrides permit" are the engine's own. Not asked:
 * what the logic solver is not asked either. Cannot express: a role paired with the branch it is limited to, in one
 * policy for all people; hence one policy for each assignment.
 */
export function makePolicyEngine(bundle: Bundle) {
  const text = (s: string) => JSON.stringify(s);
  const entities = [
    ...bundle.roles.map((role) => ({
      uid: { type: 'Role', id: role.id },
      attrs: {},
      parents: role.extends.map((id) => ({ type: 'Role', id })),
    })),
    ...bundle.people.map((person) => ({
      uid: { type: 'Person', id: person.id },
      attrs: { suspended: person.suspended ?? false },
      parents: [],
    })),
    ...PERMISSIONS.map((id) => ({
      uid: { type: 'Action', id },
      attrs: {},
      parents: [
        { type: 'Action', id: `${id.split('.')[0]}.*` },
        { type: 'Action', id: '*' },
      ],
    })),
  ];
  const loaded = new Set<string>();
  const name = (person: string) => `${person}`;
  const load = (personId: string) => {
    if (loaded.has(personId)) return;
    loaded.add(personId);
    const person = bundle.people.find((p) => p.id === personId);
    const policies: Record<string, string> = {};
    (person?.assignments ?? []).forEach(({ role, branch, from, until }, a) =>
      bundle.roles.forEach((holder) =>
        holder.grants.forEach(({ effect, permission, scope }, g) => {
          const when = [
            `!principal.suspended`,
            `Role::${text(role)} in Role::${text(holder.id)}`,
            ...(from ? [`context.hour >= ${hourOf(from)}`] : []),
            ...(until ? [`context.hour < ${hourOf(until)}`] : []),
            ...(branch ? [`(!(resource is Page) || resource in Page::${text(branch)})`] : []),
            ...(scope.branch
              ? [`(resource is Page && resource ${scope.only ? '==' : 'in'} Page::${text(scope.branch)})`]
              : []),
            ...(scope.layouts
              ? [`(resource is Page && [${scope.layouts.map(text).join(',')}].contains(resource.layout))`]
              : []),
            ...(scope.states
              ? [`(resource is Page && [${scope.states.map(text).join(',')}].contains(resource.state))`]
              : []),
            ...(scope.fields
              ? [`(!(context has field) || [${scope.fields.map(text).join(',')}].contains(context.field))`]
              : []),
            ...(scope.own ? [`(resource has author && resource.author == principal)`] : []),
          ];
          policies[`${a} ${holder.id} ${g}`] =
            `${effect === 'allow' ? 'permit' : 'forbid'}(principal == Person::${text(personId)}, action in Action::${text(permission)}, resource) when { ${when.join(' && ')} };`;
        }),
      ),
    );
    const answer = cedar.preparsePolicySet(name(personId), { staticPolicies: policies });
    if (answer.type === 'failure') throw new Error(JSON.stringify(answer.errors).slice(0, 500));
  };
  const byId = new Map(bundle.pages.map((page) => [page.id, page]));
  return (asked: AskedOf): boolean => {
    load(asked.person);
    const about: object[] = [];
    const entityOf = (author: string | undefined) =>
      author === undefined ? {} : { author: { __entity: { type: 'Person', id: author } } };
    for (
      let page = asked.page === undefined ? undefined : byId.get(asked.page);
      page;
      page = page.parent === null ? undefined : byId.get(page.parent)
    )
      about.push({
        uid: { type: 'Page', id: page.id },
        attrs: { layout: page.layout, state: page.state, ...entityOf(page.author) },
        parents: page.parent === null ? [] : [{ type: 'Page', id: page.parent }],
      });
    if (asked.page === undefined)
      about.push({ uid: { type: 'Thing', id: 'it' }, attrs: entityOf(asked.thing?.author), parents: [] });
    const answer = cedar.statefulIsAuthorized({
      principal: { type: 'Person', id: asked.person },
      action: { type: 'Action', id: asked.permission },
      resource: asked.page === undefined ? { type: 'Thing', id: 'it' } : { type: 'Page', id: asked.page },
      context: { hour: asked.hour, ...(asked.field && { field: asked.field }) },
      preparsedPolicySetId: name(asked.person),
      entities: [...entities, ...about] as never,
    });
    if (answer.type === 'failure' || answer.response.diagnostics.errors.length > 0)
      throw new Error(JSON.stringify(answer).slice(0, 800));
    return answer.response.decision === 'allow';
  };
}

/**
 * The ability library (CASL), one ability for each person and instant. Conditions and "the last rule that fits wins"
 * are the library's own; it has no roles that extend roles, no times and no assignments, so closure, times and which
 * grants reach things without a place are made here, and denies are given last.
 */
export function makeAbilities({ policy, pages }: Extract<Opened, { ok: true }>) {
  const paths = new Map<string, string[]>();
  const pathOf = (id: string): string[] => {
    let path = paths.get(id);
    if (!path) {
      const parent = pages.get(id)?.parent;
      paths.set(id, (path = [...(parent ? pathOf(parent) : []), id]));
    }
    return path;
  };
  const made = new Map<string, MongoAbility>();
  const abilityOf = (personId: string, atMs: number): MongoAbility => {
    const key = `${personId} ${atMs}`;
    const known = made.get(key);
    if (known) return known;
    const person = policy.people.get(personId);
    const rules: RawRuleOf<MongoAbility>[] = [];
    for (const a of person?.suspended ? [] : (person?.assignments ?? [])) {
      if ((a.fromMs ?? -Infinity) > atMs || (a.untilMs ?? Infinity) <= atMs) continue;
      for (const { role } of closure(policy, a.role))
        for (const { effect, permission, scope } of role.grants) {
          const action = PERMISSIONS.filter((p) => covers(permission, p));
          const branches = [a.branch, scope.branch].filter((b) => b !== undefined);
          const page = scope.only && { id: scope.branch };
          const own = scope.own && { author: personId };
          rules.push({
            inverted: effect === 'deny',
            action,
            subject: 'page',
            ...(scope.fields && { fields: scope.fields }),
            conditions: {
              ...own,
              ...page,
              ...(branches.length && { path: { $all: branches } }),
              ...(scope.layouts && { layout: { $in: scope.layouts } }),
              ...(scope.states && { state: { $in: scope.states } }),
            },
          });
          if (!scope.branch && !scope.layouts && !scope.states)
            rules.push({
              inverted: effect === 'deny',
              action,
              subject: 'thing',
              ...(scope.fields && { fields: scope.fields }),
              conditions: { ...own },
            });
        }
    }
    const ability = createMongoAbility([...rules.filter((r) => !r.inverted), ...rules.filter((r) => r.inverted)]);
    made.set(key, ability);
    return ability;
  };
  return (asked: AskedOf): boolean => {
    const page = asked.page === undefined ? undefined : pages.get(asked.page);
    const about = page
      ? subject('page', {
          id: page.id,
          path: pathOf(page.id),
          layout: page.layout,
          state: page.state,
          author: page.author,
        })
      : subject('thing', { author: asked.thing?.author });
    return abilityOf(asked.person, Date.parse(asked.at)).can(asked.permission, about, asked.field);
  };
}
