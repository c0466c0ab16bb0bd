import {
  changedMenu,
  ownMenuSchema,
  chosenPreferences,
  preferencesOf,
  usualMenu,
  type MenuChange,
  type OwnMenu,
  type Preferences,
} from '@/core/own';
import { startPreferences } from '@/core/plan';
import type { Tx } from './db/client';
import type { Access } from './gate/access';
import { Problem } from './gate/problems';
import { changeOwnRoom, findOwnRoom, type OwnRow } from './ownRooms';

/** What somebody made of the frame around every screen. */
export interface OwnFrame {
  menu: OwnMenu;
  preferences: Preferences;
  /** What they made of their room, as it is kept; nothing where they made nothing of it. */
  row: OwnRow | undefined;
}

const menuOf = (raw: unknown): OwnMenu => ownMenuSchema.safeParse(raw).data ?? usualMenu();

/** One question, asked once for every screen. */
export async function findOwnFrame(tx: Tx, access: Access): Promise<OwnFrame> {
  const row = await findOwnRoom(tx, access);
  return {
    menu: menuOf(row?.menu),
    preferences: preferencesOf(startPreferences(access.plan), chosenPreferences(row?.preferences)),
    row,
  };
}

/** Runs in a transaction. */
export const changeOwnMenu = (tx: Tx, access: Access, change: MenuChange): Promise<OwnMenu> =>
  changeOwnRoom(tx, access, (row) => {
    const menu = changedMenu(menuOf(row?.menu), change);
    if (menu === null) throw new Problem('favourites-full');
    return { after: { menu }, gives: menu };
  });

/** Chooses how the back office is read, as far as that is left free. Runs in a transaction. */
export async function changePreferences(tx: Tx, access: Access, given: Partial<Preferences>): Promise<Preferences> {
  const plan = startPreferences(access.plan);
  if (plan.fixed.some((one) => given[one] !== undefined)) throw new Problem('preference-fixed');
  return changeOwnRoom(tx, access, (row) => {
    const preferences = { ...chosenPreferences(row?.preferences), ...given };
    return { after: { preferences }, gives: preferencesOf(plan, preferences) };
  });
}
