import { closure, rulesAllow, rulesFor, type Place, type PolicyPerson, type AccessRule } from '../access';
import type { Inventory } from '../inventory';
import { policyOf, type Plan } from '../plan';
import { keptBySpot, type Spot } from '../rules';
import {
  arrangementOf,
  elementOf,
  freestElement,
  isTheirs,
  panelOf,
  stricterElement,
  type Arrangement,
  type ElementState,
  type ScreenWorld,
} from '../screens';
import { rolesThatCount } from '../toolbar';
import { weekdayOf } from '../words';
import { editOf } from './writing';

/**
 * How the edit screens of somebody are prepared. What a field lies in counts for it: in a panel that is hidden or locked
 * it is so, too.
 */
export interface Screens {
  /** Whether anything of any screen is prepared for them at all. */
  isAny: boolean;
  /** Whether some rule for a role of theirs names an element: what none names is everywhere as it is by itself. */
  names: (element: string) => boolean;
  /** An element in the state a thing has and in that of a draft, which it becomes by typing: the stricter of both. */
  of: (type: string, place: Place, element: string) => ElementState;
  /** How the screen is arranged; undefined where it stands as it is by itself. */
  arranged: (type: string, place: Place) => Arrangement | undefined;
  /** Whether the screen leaves a field to them. */
  theirs: (type: string, place: Place, field: string) => boolean;
}

const NOTHING: ElementState = { because: {} };
const PAGE = 'page';

interface PlanScreens {
  world: ScreenWorld;
  /** What several roles have of an element, in the state a thing has and in that of a draft: the stricter of both. */
  at: (roles: readonly string[], spot: Spot) => ElementState;
}

const known = new WeakMap<Plan, PlanScreens>();
/** What edit screens are resolved by under a plan. */
function planScreens(plan: Plan): PlanScreens {
  let screens = known.get(plan);
  if (!screens) {
    const byId = new Map(plan.roles.map((role) => [role.id, role]));
    const world: ScreenWorld = {
      rules: plan.screens,
      extended: new Map(
        plan.roles.map(({ id }) => [id, new Set(closure({ roles: byId }, id).map(({ role }) => role.id))]),
      ),
    };
    const at = keptBySpot(plan.screens, (roles, spot) => {
      const [now = NOTHING, written = NOTHING] = [spot.state, 'draft'].map((state) =>
        freestElement(roles.map((role) => elementOf(world, role, { ...spot, state }))),
      );
      return spot.state === 'draft' ? now : stricterElement(now, written);
    });
    known.set(plan, (screens = { world, at }));
  }
  return screens;
}

/**
 * How they are prepared for a person. Of several roles those count that by themselves let them change the thing; where none does
 * alone, all of them.
 */
export function screensOf(inventory: Inventory, plan: Plan, person: PolicyPerson, nowMs: number): Screens {
  if (plan.screens.length === 0)
    return { isAny: false, names: () => false, of: () => NOTHING, arranged: () => undefined, theirs: () => true };
  const { world, at: resolve } = planScreens(plan);
  const named = new Set(plan.screens.flatMap(({ when }) => when.fields ?? []));
  const theirs = new Set(person.assignments.flatMap(({ role }) => [...(world.extended.get(role) ?? [role])]));
  const namedForThem = new Set(
    plan.screens
      .filter(({ when: { roles } }) => roles === undefined || roles.some((role) => theirs.has(role)))
      .flatMap(({ when }) => when.fields ?? []),
  );
  const alone = new Map<string, AccessRule[]>();
  const letsEdit = (role: string, type: string, place: Place) => {
    const key = `${role} ${type}`;
    let rules = alone.get(key);
    if (!rules) {
      const policy = policyOf(inventory, plan, [{ id: person.id, name: person.name, assignments: [{ role }] }]);
      alone.set(key, (rules = rulesFor(policy, person.id, editOf(type), nowMs)));
    }
    return rulesAllow(rules, person.id, { place });
  };
  // Without a branch in any assignment the same roles count everywhere.
  const everywhere = person.assignments.every((a) => a.branch === undefined)
    ? rolesThatCount(person, [], nowMs)
    : undefined;
  const rolesAt = (type: string, place: Place) => {
    const all = everywhere ?? rolesThatCount(person, place.path, nowMs);
    const some = all.length > 1 ? all.filter((role) => letsEdit(role, type, place)) : all;
    return some.length > 0 ? some : all;
  };
  const layoutOf = (type: string, place: Place) =>
    type === PAGE ? place.layout : (inventory.items.get(type)?.layouts[0]?.id ?? place.layout);
  const day = weekdayOf(new Date(nowMs), inventory.timeZone);
  const spot = (type: string, place: Place, field: string): Spot => ({
    path: place.path,
    layout: layoutOf(type, place),
    state: place.state,
    field,
    day,
  });
  const at = (type: string, place: Place, element: string) => resolve(rolesAt(type, place), spot(type, place, element));
  const of = (type: string, place: Place, element: string): ElementState => {
    const panel = panelOf(inventory, type, element);
    const own = named.has(element) ? at(type, place, element) : NOTHING;
    if (panel === undefined || !named.has(panel)) return own;
    const { show, lock, because, ...rest } = at(type, place, panel);
    const isWhole = !inventory.items.get(type)?.settings.some(({ id }) => id === element);
    return stricterElement(own, {
      ...(isWhole && rest),
      ...(show === 'hidden' && { show }),
      ...(lock !== undefined && { lock }),
      because,
    });
  };
  return {
    isAny: true,
    names: (element) => namedForThem.has(element),
    of,
    arranged(type, place) {
      for (const role of rolesAt(type, place)) {
        const found = arrangementOf(world, role, spot(type, place, ''));
        if (found) return found;
      }
      return undefined;
    },
    theirs: (type, place, field) => isTheirs(of(type, place, field)),
  };
}
