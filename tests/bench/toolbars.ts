// Toolbars by rule: how fast they are resolved, and what stands on the Workshop's grid.
import type { Spot } from '../../src/core/rules';
import {
  resolveTools,
  spotsThatDiffer,
  toolFindings,
  toolsIn,
  type ToolRule,
  type ToolWorld,
} from '../../src/core/toolbar';
import { inventory } from '../inventory';

const ROLES = Array.from({ length: 30 }, (_, i) => `role-${i}`);
const LAYOUTS = Array.from({ length: 12 }, (_, i) => `layout-${i}`);
const FIELDS = Array.from({ length: 6 }, (_, i) => `field-${i}`);
const TOOLS = [...inventory.tools.keys()];

/** A tree of pages, ten below each: their paths, the first page's first. */
function pathsOf(count: number): string[][] {
  const paths: string[][] = [['0']];
  for (let i = 1; i < count; i++) paths.push([...(paths[Math.floor((i - 1) / 10)] ?? []), String(i)]);
  return paths;
}

/** Rules that differ in all they can, the same in every run. */
function worldOf(rules: number, pages: number): ToolWorld {
  const made = Array.from({ length: rules }, (_, i): ToolRule => ({
    id: `rule-${i}`,
    when: {
      ...(i % 5 !== 0 && { roles: [ROLES[(i * 7) % ROLES.length] ?? ''] }),
      ...(i % 3 === 0 && { branch: String((i * 13) % Math.min(pages, 1000)) }),
      ...(i % 4 === 1 && { layouts: [LAYOUTS[i % LAYOUTS.length] ?? ''] }),
      ...(i % 4 === 2 && { fields: [FIELDS[i % FIELDS.length] ?? ''] }),
      ...(i % 7 === 3 && { states: ['draft'] }),
    },
    then:
      i % 4 === 0
        ? { use: 'everyday' }
        : i % 4 === 1
          ? { add: [TOOLS[i % TOOLS.length] ?? ''] }
          : i % 4 === 2
            ? { take: [TOOLS[i % TOOLS.length] ?? ''] }
            : { cap: TOOLS.slice(0, 12) },
  }));
  return {
    tools: TOOLS,
    sets: new Map([['everyday', { id: 'everyday', add: TOOLS.slice(0, 10), take: [] }]]),
    rules: made,
    extended: new Map(ROLES.map((role, i) => [role, new Set(i % 4 === 1 ? [role, ROLES[i - 1] ?? ''] : [role])])),
  };
}

const timed = (run: () => unknown): number => {
  const started = performance.now();
  run();
  return performance.now() - started;
};

export function measureToolbars(rate: (run: () => void) => number, say: (what: string, value: string) => void): void {
  const millions = (perSecond: number) => `${(perSecond / 1_000_000).toFixed(2)} M a second`;
  for (const [rules, pages] of [
    [8, 20],
    [200, 20_000],
  ] as const) {
    const world = worldOf(rules, pages);
    const paths = pathsOf(pages);
    const ask = toolsIn(world);
    let i = 0;
    const spot = (): Spot => ({
      path: paths[(i * 7919) % paths.length] ?? [],
      layout: LAYOUTS[i % LAYOUTS.length] ?? '',
      state: i % 2 === 0 ? 'draft' : 'published',
      field: FIELDS[(i * 3) % FIELDS.length] ?? '',
      day: 1 + (i % 7),
    });
    const questions = Array.from({ length: 5000 }, () => {
      i++;
      return [[ROLES[i % ROLES.length] ?? ''], spot()] as const;
    });
    let k = 0;
    const next = (): readonly [readonly string[], Spot] => questions[k++ % questions.length] ?? [[], spot()];
    for (const [roles, at] of questions) ask(roles, at);
    const warm = rate(() => ask(...next()));
    const plain = rate(() => resolveTools(world, ...next()));
    say(
      `toolbars, ${rules} rules × ${pages.toLocaleString('en')} pages, kept by what tells spots apart`,
      `${millions(warm)}; beside each worked out anew ${Math.round(plain / 1000)} k a second: ${Math.round(warm / plain)} ×`,
    );
  }
  const world = worldOf(20, 20_000);
  const paths = pathsOf(20_000);
  const forms = LAYOUTS.map((layout) => ({ layout, fields: FIELDS }));
  const [role = ''] = ROLES;
  const grid = () => {
    const ask = toolsIn(world);
    const spots = spotsThatDiffer(world.rules, forms, paths.slice(0, 1), { states: ['draft'], days: [1] });
    return spots.map((spot) => ask([role], spot).tools.length);
  };
  const whole = () => {
    const ask = toolsIn(world);
    const spots = spotsThatDiffer(world.rules, forms, paths, { states: ['draft'], days: [1] });
    return spots.map((spot) => ask([role], spot).tools.length);
  };
  grid();
  whole();
  say('grid of a role, 12 layouts × 6 texts, 20 rules, one part of the website', `${timed(grid).toFixed(1)} ms`);
  say('the same, told apart over 20,000 pages', `${timed(whole).toFixed(1)} ms`);
  say(
    'everything worth a look about the rules of a role, the same',
    `${timed(() =>
      toolFindings({
        world,
        spots: spotsThatDiffer(world.rules, forms, paths, { states: ['draft'], days: [1] }),
        role,
        writes: () => true,
        held: new Set(ROLES),
        tasks: [],
      }),
    ).toFixed(0)} ms`,
  );
}
