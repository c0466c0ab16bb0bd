import { apart } from './apart';
import { dashboard } from './dashboard';
import { doors } from './doors';
import { grants } from './grants';
import { menu } from './menu';
import { pageList } from './pageList';
import type { AnyPart, WholePart } from './part';
import { publishing } from './publishing';
import { reading } from './reading';
import { screens } from './screens';
import { tasks } from './tasks';
import { toolbars } from './toolbars';
import { tours } from './tours';
import { words } from './words';

/** What a plan sets for each role, by the field of the role; differences are told in this order. */
export const ROLE_PARTS = { tasks, grants, doors, menu, dashboard, pageList, tours };
/** What it sets for all of them, by the field of the plan. */
export const PLAN_PARTS = { apart, toolbars, screens, publishing, reading, words };

export type RolePartKey = keyof typeof ROLE_PARTS;
export type PlanPartKey = keyof typeof PLAN_PARTS;
export const rolePart = (key: RolePartKey): AnyPart => ROLE_PARTS[key];
export const planPart = (key: PlanPartKey): AnyPart & WholePart<unknown> => PLAN_PARTS[key];
export const ROLE_PART_KEYS = Object.keys(ROLE_PARTS) as RolePartKey[];
export const PLAN_PART_KEYS = Object.keys(PLAN_PARTS) as PlanPartKey[];

type EachOf<Parts extends Record<string, Record<Which, unknown>>, Which extends string> = {
  [K in keyof Parts]: Parts[K][Which];
};
/** One thing of each part, its schema for instance, by the part's field. */
export const eachOf = <Parts extends Record<string, Record<Which, unknown>>, Which extends string>(
  parts: Parts,
  which: Which,
) => Object.fromEntries(Object.entries(parts).map(([key, part]) => [key, part[which]])) as EachOf<Parts, Which>;

export { entryName, HOLD_NAMES, placeOf } from './dashboard';
export { allDoors, doorsNobodyHas, type PlanDoor } from './doors';
export { grantInWords, grantSchema, unknownInGrant, type PlanGrant } from './grants';
export { type Menu, type Shortcut } from './menu';
export { SORT_NAMES } from './pageList';
export { preferenceName, startPreferences } from './reading';
export { ASK_STOP, givenStops, orderedStops } from './tours';
export { wordsPlace, wordsPlaces } from './words';
export { type OperationFault, type PartFault, type Telling } from './part';
export { isJust, setWithTool, toolsEverywhere, withTool, worldOfToolbars } from './toolGiven';
export { groupsIn, groupsOf, ruleNames, type PlanToolRule, type PlanToolSet, type Toolbars } from './toolbarsForm';
export { elementName, ruleFor, screenRuleInWords } from './screens';
export { publishingOf, type CheckRule, type PublishingRules } from './publishing';
