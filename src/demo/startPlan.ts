import { boardOf } from '@/core/dashboard';
import { emptyPlan, emptyRole, type PlanRole, type Plan } from '@/core/plan';
import { type Inventory, ofInventory } from '@/core/inventory';

/** A rule that allows something, everywhere or in a scope. */
export const allow = (
  permission: string,
  scope: PlanRole['grants'][number]['scope'] = {},
): PlanRole['grants'][number] => ({
  id: `${permission.replace('*', 'all')}${scope.branch ? `-under-${scope.branch}` : ''}`,
  effect: 'allow',
  permission,
  scope,
});
/** Sections whose doors stand open. */
export const open = (...sections: string[]) => sections.map((section) => ({ section, state: 'open' as const }));
const links = ['link.page', 'link.file', 'link.web', 'link.mail', 'link.phone'];
export const aids = ['paste.form', 'mode.preview'];
/** What most people write with. */
export const everyday = {
  id: 'everyday',
  name: 'Everyday writing',
  add: ['bold', 'italic', ...links, 'heading.2', 'heading.3', 'bullets', ...aids],
  take: [],
};
export const everythingOf = ofInventory((inventory) => ({
  id: 'everything',
  name: 'Everything',
  add: [...inventory.tools.keys()],
  take: [],
}));
/** The rule that one role writes with a set. */
export const uses = (role: string, use: string) => ({ id: role, when: { roles: [role] }, then: { use } });
/** The role that may do everything, with everything in its room. */
export const keyholderRole = (inventory: Inventory): PlanRole => ({
  ...emptyRole(),
  id: 'keyholder',
  name: 'Keyholder',
  purpose: 'Looks after the website as a whole and prepares the rooms of the others.',
  grants: [{ id: 'everything', effect: 'allow', permission: '*', scope: {} }],
  tasks: [
    { task: 'pages.publish' },
    { task: 'notices.post' },
    { task: 'review.decide' },
    { task: 'pictures.describe' },
    { task: 'people.see' },
    { task: 'activity.see' },
  ],
  doors: open(...inventory.doors.map((section) => section.id)),
  menu: { shortcuts: [], hints: {}, groups: [{ name: 'Office', doors: ['duties', 'people', 'activity'] }] },
  dashboard: boardOf(
    ['pages.unfinished', 'review.waiting', 'pages.care'],
    ['duties.mine', 'notices.now', 'pages.coming'],
    ['visits.week', 'visits.missed', 'pages.lately', { widget: 'frame.changed', hold: 'offered' }],
  ),
});
/** A first plan for a site without the demo: the keyholder, and one role to begin with. */
export const startPlan = (inventory: Inventory): Plan => ({
  ...emptyPlan(),
  toolbars: {
    sets: [everythingOf(inventory), everyday],
    rules: [uses('keyholder', 'everything'), uses('editor', 'everyday')],
  },
  roles: [
    keyholderRole(inventory),
    {
      ...emptyRole(),
      id: 'editor',
      name: 'Editor',
      purpose: 'Keeps the words on the pages right.',
      grants: [allow('page.view'), allow('page.edit'), allow('page.send')],
      tasks: [{ task: 'pages.words' }],
      doors: open('pages'),
      dashboard: boardOf(['pages.unfinished', { widget: 'frame.whom', hold: 'offered' }]),
    },
  ],
});
