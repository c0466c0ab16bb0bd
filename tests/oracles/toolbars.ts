import type { ToolBundle } from '@/core/toolbar';
import { STATES, type Random } from './worlds';

export const TOOLS = [
  'bold',
  'italic',
  'heading.2',
  'heading.3',
  'link.page',
  'link.web',
  'table',
  'table.rows',
  'picture',
];
export const FIELDS = ['summary', 'body', 'intro'];
export const LAYOUTS = ['plain', 'news', 'event'];
/** On both sides of the day's line, and with hours of their own. */
const ZONES = ['Europe/London', 'Pacific/Kiritimati', 'Pacific/Pago_Pago', 'Asia/Kathmandu'];
export const at = (hour: number) => new Date(Date.UTC(2026, 0, 1, hour)).toISOString();

/** A random website with rules for toolbars. */
export function makeBundle(random: Random): ToolBundle {
  const { below, oneOf, chance } = random;
  const some = <T>(list: readonly T[], share: number) => list.filter(() => chance(share));
  const pages = Array.from({ length: 1 + below(9) }, (_, i) => ({
    id: `p${i}`,
    parent: i === 0 ? null : `p${below(i)}`,
    layout: oneOf(LAYOUTS),
    state: oneOf(STATES),
  }));
  const page = () => oneOf(pages).id;
  const roles = Array.from({ length: 1 + below(5) }, (_, i) => ({
    id: `r${i}`,
    extends: i === 0 ? [] : [...new Set([`r${below(i)}`, `r${below(i)}`])].filter(() => chance(0.6)),
  }));
  const profiles = Array.from({ length: 1 + below(4) }, (_, i) => {
    const add = some(TOOLS, 0.4);
    return {
      id: `s${i}`,
      ...(i > 0 && chance(0.6) && { base: `s${below(i)}` }),
      add,
      take: some(TOOLS, 0.2).filter((tool) => !add.includes(tool)),
    };
  });
  const rules = Array.from({ length: below(14) }, (_, i) => ({
    id: `q${i}`,
    when: {
      ...(chance(0.5) && { roles: [...new Set([oneOf(roles).id, oneOf(roles).id])] }),
      ...(chance(0.4) && { branch: page() }),
      ...(chance(0.3) && { layouts: [oneOf(LAYOUTS)] }),
      ...(chance(0.3) && { fields: [oneOf(FIELDS)] }),
      ...(chance(0.2) && { states: [oneOf(STATES)] }),
      ...(chance(0.2) && { days: [...new Set([1 + below(7), 1 + below(7)])] }),
    },
    then: oneOf([
      { use: oneOf(profiles).id },
      { use: oneOf(profiles).id },
      { add: some(TOOLS, 0.3) },
      { take: some(TOOLS, 0.3) },
      { cap: some(TOOLS, 0.7) },
    ]),
  }));
  const people = Array.from({ length: 1 + below(3) }, (_, i) => ({
    id: `u${i}`,
    ...(chance(0.1) && { suspended: true }),
    assignments: Array.from({ length: below(4) }, () => ({
      role: oneOf(roles).id,
      ...(chance(0.3) && { branch: page() }),
      ...(chance(0.3) && { from: at(below(10)) }),
      ...(chance(0.3) && { until: at(10 + below(10)) }),
    })),
  }));
  return {
    roles,
    people,
    pages,
    layouts: LAYOUTS.map((id) => ({ id, fields: FIELDS })),
    tools: TOOLS,
    profiles,
    rules,
    ...(chance(0.8) && { timeZone: oneOf(ZONES) }),
  };
}
