import { describe, expect, it } from 'vitest';
import { bundlePath } from '@/core/access';
import { openToolBundle, resolveTools, spotsThatDiffer, toolFindings, type ToolFinding } from '@/core/toolbar';
import { WEEKDAYS, type Spot } from '@/core/rules';
import { FIELDS, LAYOUTS, makeBundle } from './toolbars';
import { randomFrom, STATES } from './worlds';

// What is found about rules, against going through every page, layout, state and field there is, one after the other.

const SEED = 20261128;
const forms = LAYOUTS.map((layout) => ({ layout, fields: FIELDS }));
const tasks = [{ task: 'link', tools: ['link.page', 'bold'] }];

describe(`findings about rules for toolbars (seed ${SEED})`, () => {
  it('are those that going through all places gives, in 400 random worlds', () => {
    const counts: Partial<Record<ToolFinding['kind'], number>> = {};
    for (let n = 0; n < 400; n++) {
      const random = randomFrom(SEED + n);
      const bundle = makeBundle(random);
      const opened = openToolBundle(bundle);
      if (!opened.ok) throw new Error(JSON.stringify(opened.faults));
      const { world } = opened;
      const paths = [...opened.pages.keys()].map((page) => bundlePath(opened.pages, page));
      const role = random.oneOf(bundle.roles).id;
      const held = new Set(bundle.people.flatMap((person) => person.assignments.map((a) => a.role)));
      // Each role writes below one page, on some layouts.
      const reach = new Map(
        bundle.roles.map(({ id }) => [id, { branch: random.oneOf(bundle.pages).id, layout: random.oneOf(LAYOUTS) }]),
      );
      const writes = (id: string, spot: Spot) => {
        const { branch = '', layout = '' } = reach.get(id) ?? {};
        return spot.path.includes(branch) && (layout === 'plain' || spot.layout === layout);
      };
      const spots = spotsThatDiffer(
        world.rules,
        forms,
        paths,
        { states: STATES, days: WEEKDAYS },
        [...reach.values()].map(({ branch }) => branch),
      );
      const found = toolFindings({ world, spots, role, writes, held, tasks });
      for (const { kind } of found) counts[kind] = (counts[kind] ?? 0) + 1;

      const daysTold = bundle.rules.some(({ when }) => when.days) ? [1, 2, 3, 4, 5, 6, 7] : [1];
      const everywhere = paths.flatMap((path) =>
        LAYOUTS.flatMap((layout) =>
          STATES.flatMap((state) =>
            FIELDS.flatMap((field) => daysTold.map((day): Spot => ({ path, layout, state, field, day }))),
          ),
        ),
      );
      const builtOn = (id: string): string[] => [
        id,
        ...(bundle.roles.find((one) => one.id === id)?.extends ?? []).flatMap(builtOn),
      ];
      const isFor = (rule: (typeof bundle.rules)[number], id: string) =>
        !rule.when.roles || rule.when.roles.some((named) => builtOn(id).includes(named));
      const holds = ({ when }: (typeof bundle.rules)[number], spot: Spot) =>
        (!when.branch || spot.path.includes(when.branch)) &&
        (!when.layouts || when.layouts.includes(spot.layout)) &&
        (!when.states || when.states.includes(spot.state)) &&
        (!when.fields || when.fields.includes(spot.field)) &&
        (!when.days || when.days.includes(spot.day));
      const toolsOf = (rules: typeof bundle.rules, id: string, spot: Spot) =>
        resolveTools({ ...world, rules }, [id], spot).tools.join();
      const theirs = bundle.rules.filter((rule) => isFor(rule, role));
      const told = (kind: ToolFinding['kind']) => found.filter((one) => one.kind === kind);

      const shadowed = theirs.filter((rule) =>
        bundle.roles.every(({ id }) =>
          everywhere.every(
            (spot) =>
              toolsOf(bundle.rules, id, spot) ===
              toolsOf(
                bundle.rules.filter((one) => one !== rule),
                id,
                spot,
              ),
          ),
        ),
      );
      expect(told('shadowed'), `world ${n}`).toEqual(shadowed.map(({ id }) => ({ kind: 'shadowed', rule: id })));

      const gaps = everywhere.filter(
        (spot) => writes(role, spot) && !theirs.some((rule) => !rule.then.cap && holds(rule, spot)),
      );
      expect(told('gap').length, `world ${n}`).toBe(gaps.length > 0 ? 1 : 0);

      const unheld = theirs.filter(
        (rule) =>
          rule.when.roles?.includes(role) &&
          ![...held].some((id) => rule.when.roles?.some((named) => builtOn(id).includes(named))),
      );
      expect(told('unheld'), `world ${n}`).toEqual(unheld.map(({ id }) => ({ kind: 'unheld', rule: id })));

      const broad = theirs.flatMap((rule) => {
        const there = everywhere.filter((spot) => holds(rule, spot));
        const ids = bundle.roles.map(({ id }) => id).filter((id) => isFor(rule, id));
        const on = new Set(there.filter((spot) => ids.some((id) => writes(id, spot))).map((spot) => spot.layout));
        const { layouts, branch } = rule.when;
        const is = layouts ? layouts.some((layout) => !on.has(layout)) : branch !== undefined && on.size === 0;
        return is ? [{ rule: rule.id, writes: [...on].sort() }] : [];
      });
      expect(
        found.flatMap((one) => (one.kind === 'broad' ? [{ rule: one.rule, writes: one.writes.toSorted() }] : [])),
        `world ${n}`,
      ).toEqual(broad);

      // Two that are as strong, and another outcome when they change places.
      const ties = theirs.flatMap((a, i) =>
        theirs.slice(i + 1).flatMap((b) => {
          if (a.then.cap || b.then.cap || ('use' in a.then && !('use' in b.then))) return [];
          const named = ({ when }: typeof a) =>
            JSON.stringify([
              Boolean(when.fields),
              when.branch ?? '',
              Boolean(when.layouts),
              Boolean(when.states),
              Boolean(when.days),
              when.roles ? when.roles.includes(role) : 'none',
            ]);
          if (named(a) !== named(b)) return [];
          const swapped = bundle.rules.map((one) => (one === a ? b : one === b ? a : one));
          const decides = everywhere.some(
            (spot) =>
              holds(a, spot) && holds(b, spot) && toolsOf(bundle.rules, role, spot) !== toolsOf(swapped, role, spot),
          );
          return decides ? [[a.id, b.id]] : [];
        }),
      );
      expect(
        found.flatMap((one) => (one.kind === 'tie' ? [one.rules] : [])),
        `world ${n}`,
      ).toEqual(ties);

      for (const tool of ['link.page', 'bold']) {
        const lacks = everywhere.some(
          (spot) => writes(role, spot) && !resolveTools(world, [role], spot).tools.includes(tool),
        );
        expect(
          found.some((one) => one.kind === 'lacking' && one.tool === tool),
          `world ${n}`,
        ).toBe(lacks);
      }
    }
    // Each kind was found often enough to say something.
    for (const kind of ['shadowed', 'tie', 'gap', 'broad', 'unheld', 'unused', 'lacking'] as const)
      expect(counts[kind] ?? 0, kind).toBeGreaterThan(10);
  });
});
