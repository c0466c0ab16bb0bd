import { NO_FILTER } from '@/core/lists';
import fc from 'fast-check';
import { HOLDS, SIZES } from '@/core/dashboard';
import type { StartPreferences } from '@/core/own';
import { applyOperation, publishingOf, type Operation, type Plan } from '@/core/plan';
import { demoPlan } from '@/demo/plan';
import { inventory } from '../inventory';

/** The plan of the demo, with small numbers for pages. */
export const demo = demoPlan(inventory, (key) => ({ home: '1', harbours: '2', cafe: '4', about: '1' })[key] ?? '1');
const roleIds = demo.roles.map((role) => role.id);
const role = fc.constantFrom(...roleIds);
const scope = fc.record(
  {
    branch: fc.constantFrom('1', '2', '4'),
    own: fc.constant(true as const),
    layouts: fc.constantFrom<string[]>(['plain'], ['plain', 'banner'], ['banner', 'plain']),
    states: fc.constant<('draft' | 'down')[]>(['draft']),
  },
  { requiredKeys: [] },
);
const effect = fc.constantFrom('allow' as const, 'deny' as const);
const permission = fc.constantFrom(...inventory.permissions.keys(), 'page.*');
const grant = fc.record({ id: fc.constantFrom('g1', 'g2', 'g3'), effect, permission, scope });
const section = fc.constantFrom(...inventory.doors.map((s) => s.id));
const task = fc.constantFrom(...inventory.tasks.keys());
const entry = fc.constantFrom(...inventory.widgets.keys()).map((widget) => ({ entry: widget, widget }));
/** The same, of one entry of a board. */
const ofEntry = <T extends object>(fields: fc.Arbitrary<T>) =>
  fc.tuple(entry, fields).map(([of, rest]) => ({ ...rest, ...of }));
const words = fc.constantFrom('', 'Boats', 'Late boats');
const isOn = fc.boolean();

const SOME_TOOLS = ['bold', 'italic', 'table', 'mode.code'];
const RULE_IDS = ['harbour-desk', 'newsroom', 'q1', 'q2'];
const toolRule = fc.record(
  {
    id: fc.constantFrom(...RULE_IDS),
    when: fc.record(
      {
        roles: fc.subarray(roleIds, { minLength: 1, maxLength: 2 }),
        branch: fc.constantFrom('1', '2'),
        layouts: fc.subarray(['plain', 'event'], { minLength: 1 }),
        fields: fc.subarray(['body', 'intro'], { minLength: 1 }),
        states: fc.constant<string[]>(['draft']),
        days: fc.subarray([1, 6, 7], { minLength: 1 }),
      },
      { requiredKeys: [] },
    ),
    then: fc.oneof(
      fc.record({ use: fc.constantFrom('everyday', 'short', 'newsroom') }),
      ...(['add', 'take', 'cap'] as const).map((what) =>
        fc
          .subarray(SOME_TOOLS)
          .map((tools): { add?: string[]; take?: string[]; cap?: string[] } => ({ [what]: tools })),
      ),
    ),
    keep: fc.constant({ table: 'words' as const }),
  },
  { requiredKeys: ['id', 'when', 'then'] },
);

const FEW = ['harbour-desk', 'newsroom'];
/** Few, so that one operation often meets what another did. */
const fewRoles = fc.constantFrom(...FEW);
const screenPlace = fc.record(
  {
    branch: fc.constantFrom('1', '2'),
    layouts: fc.constantFrom<string[]>(['plain'], ['banner']),
    states: fc.constant<string[]>(['draft']),
  },
  { requiredKeys: [] },
);
const wordsAt = fc.constantFrom('today', 'door:notices', 'edit:page');
const shortText = fc.option(
  fc
    .constantFrom('Ring first.', 'Ring twice.')
    .map((text) => ({
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] }],
    })),
);
type Fields<Do extends Operation['do']> = Omit<Extract<Operation, { do: Do }>, 'do'>;
/** One for each operation there is: an operation without one does not compile. */
const FIELDS: { [Do in Operation['do']]: fc.Arbitrary<Fields<Do>> } = {
  'add-role': fc.record({
    role: fc.constantFrom('new-one', 'new-two'),
    name: fc.constant('New'),
    purpose: fc.constant(''),
    like: fc.constantFrom('front-line', 'newsroom'),
  }),
  'name-role': fc.record({ role, name: fc.constantFrom('Desk', 'Gate'), purpose: fc.constantFrom('', 'Helps.') }),
  'set-extends': fc.record({ role, extends: fc.subarray(roleIds, { maxLength: 2 }) }),
  'archive-role': fc.record({ role, archived: isOn }),
  'replace-plan': fc.record({
    plan: fc
      .subarray(['seasonal-helper', 'cafe-manager', 'picture-keeper'])
      .map((gone): Plan => ({
        ...demo,
        roles: demo.roles.filter(({ id }) => !gone.includes(id)).toReversed(),
        toolbars: { ...demo.toolbars, rules: demo.toolbars.rules.filter(({ id }) => !gone.includes(id)) },
        words: demo.words.filter(({ role: of }) => of === undefined || !gone.includes(of)),
        screens: demo.screens.filter(({ when }) => !when.roles?.some((id) => gone.includes(id))),
      })),
    why: fc.constantFrom('file' as const, 'drop' as const, 'return' as const),
  }),
  'tick-task': fc.record({ role, task, ticked: isOn }),
  'name-task': fc.record({ role, task, name: words, said: fc.subarray(['fog', 'storm']) }),
  'add-grant': fc.record({ role, grant }),
  'change-grant': fc.record({
    role,
    grant: fc.record({ id: fc.constantFrom('g1', 'notice.view', 'page.view'), effect, permission, scope }),
  }),
  'remove-grant': fc.record({ role, grant: fc.constantFrom('g1', 'g2', 'notice.view', 'page.view') }),
  'set-door': fc.record({ role, section, state: fc.constantFrom('open', 'look', 'away', 'closed') }),
  'name-door': fc.record({ role, section, name: words }),
  'move-door': fc.record({ role, section, to: fc.nat(5) }),
  'set-tool': fc.record({ role, tool: fc.constantFrom(...inventory.tools.keys()), on: isOn }),
  'put-tool-set': fc.record({
    role,
    set: fc
      .record({
        id: fc.constantFrom('everyday', 'short', 'newsroom', 'tiny'),
        name: fc.constantFrom('Short', 'Tiny'),
        base: fc.constantFrom('everyday', 'short', 'newsroom', undefined),
        add: fc.subarray(SOME_TOOLS),
        take: fc.subarray(SOME_TOOLS),
        groups: fc.constantFrom(undefined, ['inserts' as const], ['modes' as const, 'words' as const]),
      })
      .map(({ base, groups, ...set }) => ({
        ...set,
        ...(base !== undefined && { base }),
        ...(groups && { groups: [...groups] }),
      })),
  }),
  'remove-tool-set': fc.record({ role, set: fc.constantFrom('tiny', 'short') }),
  'put-tool-rule': fc.record({ role, rule: toolRule }),
  'remove-tool-rule': fc.record({ role, rule: fc.constantFrom(...RULE_IDS) }),
  'move-tool-rule': fc.record({ role, rule: fc.constantFrom(...RULE_IDS), to: fc.nat(5) }),
  'place-widget': ofEntry(fc.record({ role, column: fc.nat(3), index: fc.nat(3) })),
  'set-widget': ofEntry(
    fc.record(
      {
        role,
        hold: fc.constantFrom(...HOLDS),
        size: fc.constantFrom(...SIZES),
        heading: fc.constantFrom('Ours', 'Visits this week'),
        settings: fc.constantFrom({}, { most: 3 }, { most: 3, branch: '2' }, { links: [] }),
      },
      { requiredKeys: ['role', 'hold', 'size'] },
    ),
  ),
  'remove-widget': ofEntry(fc.record({ role })),
  'set-columns': fc.record({ role, count: fc.integer({ min: 1, max: 4 }) }),
  'set-menu': fc.record({
    role,
    menu: fc.record(
      {
        groups: fc.constantFrom(
          [],
          [{ name: 'Often', doors: ['pages', 'notices'] }],
          [{ name: 'Seldom', doors: ['pages'] }],
        ),
        shortcuts: fc.subarray([
          { id: 'tides', name: 'Tides', to: 'https://tides.example/' },
          { id: 'drafts', name: 'Drafts', to: '/room/pages?view=list&state=draft' },
          { id: 'home', name: 'Front page', to: 'page:1' },
          { id: 'find', name: 'Find', to: 'task:pages.find' },
        ]),
        hints: fc.constantFrom<Record<string, string>>({}, { pages: 'All pages' }, { pages: 'All of them' }),
        first: fc.constant('pages'),
      },
      { requiredKeys: ['groups', 'shortcuts', 'hints'] },
    ),
  }),
  'set-page-list': fc.record({
    role,
    list: fc.record(
      {
        view: fc.constantFrom('tree' as const, 'list' as const),
        columns: fc.subarray(['state', 'layout', 'address', 'language']),
        sort: fc.constantFrom(
          { by: 'title' as const, dir: 'up' as const },
          { by: 'place' as const, dir: 'up' as const },
        ),
        filters: fc.subarray([
          { name: 'Drafts', filter: { ...NO_FILTER, state: 'draft' as const } },
          { name: 'Lately', filter: { ...NO_FILTER, days: 7 } },
          { name: 'Lately changed', filter: { ...NO_FILTER, days: 30, sort: 'changed' as const } },
        ]),
      },
      { requiredKeys: ['filters'] },
    ),
  }),
  'set-element': fc.record({
    role: fewRoles,
    element: fc.constantFrom('summary', 'page.inNavigation', 'pages.edit.notes', 'pages.edit.banner', 'title'),
    place: screenPlace,
    said: fc.option(
      fc.record(
        {
          show: fc.constantFrom('shown' as const, 'closed' as const, 'hidden' as const),
          label: fc.constantFrom('Ours', 'In short'),
          hint: fc.constant('For people in a hurry.'),
          lock: fc.constant('The office keeps it.'),
          value: fc.constantFrom('x', true),
          required: fc.constant(true as const),
          choices: fc.constantFrom(['plain'], ['plain', 'event']),
        },
        { requiredKeys: [] },
      ),
    ),
  }),
  'arrange-screen': fc.record({
    role: fewRoles,
    place: screenPlace,
    arrangement: fc.option(
      fc.record({ main: fc.subarray(['summary', 'body', 'title']), side: fc.subarray(['pages.edit.notes']) }),
    ),
  }),
  'remove-screen-rule': fc.record({
    role,
    rule: fc.constantFrom(...FEW.flatMap((id) => [`${id}-summary`, `${id}-order`])),
  }),
  'word-stop': fc.record({
    role,
    task: fc.constant('notices.post'),
    stop: fc.constantFrom('door.notices', 'notices.form.text'),
    title: words,
    text: words,
  }),
  'leave-stop-out': fc.record({
    role,
    task: fc.constant('notices.post'),
    stop: fc.constantFrom('door.notices', 'notices.form.text'),
    out: isOn,
  }),
  'move-stop': fc.record({
    role,
    task: fc.constant('notices.post'),
    stop: fc.constantFrom('door.notices', 'notices.form.text', 'notices.form.send'),
    by: fc.constantFrom(1 as const, -1 as const),
  }),
  'keep-apart': fc.record({ role, other: role, apart: isOn }),
  'set-words': fc.record({ role: fewRoles, at: wordsAt, text: shortText }),
  'set-words-for-all': fc.record({ at: wordsAt, text: shortText }),
  'set-reading': fc.record({
    reading: fc.record({
      start: fc.constantFrom<StartPreferences['start']>({}, { text: 125 }, { palette: 'night', density: 'close' }),
      fixed: fc.subarray<'text' | 'palette'>(['text', 'palette']),
    }),
  }),
  'set-publishing': fc.record({
    publishing: fc.record({ noteRequired: isOn, checks: fc.constant(publishingOf(demo).checks) }),
  }),
};

/** An operation of one kind. */
export const operationOf = (name: Operation['do']): fc.Arbitrary<Operation> =>
  (FIELDS[name] as fc.Arbitrary<object>).map((rest) => ({ do: name, ...rest }) as Operation);
/** Any operation, over what the demo and the inventory hold. */
export const operation: fc.Arbitrary<Operation> = fc.oneof(
  ...(Object.keys(FIELDS) as Operation['do'][]).map(operationOf),
);

/** A plan after operations, as far as they can be done. */
export const walked = (start: Plan, list: readonly Operation[]): Plan =>
  list.reduce((plan, op) => {
    const done = applyOperation(inventory, plan, op);
    return done.ok ? done.plan : plan;
  }, start);
