import { and, eq } from 'drizzle-orm';
import {
  changedMenu,
  ownMenuSchema,
  preferencesOf,
  preferencesSchema,
  usualMenu,
  type MenuChange,
  type OwnMenu,
  type Preferences,
} from '@/core/own';
import { startPreferences } from '@/core/plan';
import { now } from './clock';
import type { Tx } from './db/client';
import { ownRooms } from './db/schema';
import type { Access } from './gate/access';
import { Problem } from './gate/problems';

/** What somebody made of the frame around every screen. */
export interface OwnFrame {
  menu: OwnMenu;
  preferences: Preferences;
}

const mine = (access: Access) => and(eq(ownRooms.siteId, access.site.id), eq(ownRooms.personId, Number(access.who.id)));
const chosen = preferencesSchema.partial();

/** One question, asked once for every screen. */
export async function findOwnFrame(tx: Tx, access: Access): Promise<OwnFrame> {
  const [row] = await tx
    .select({ menu: ownRooms.menu, preferences: ownRooms.preferences })
    .from(ownRooms)
    .where(mine(access));
  return {
    menu: ownMenuSchema.safeParse(row?.menu).data ?? usualMenu(),
    preferences: preferencesOf(startPreferences(access.plan), chosen.safeParse(row?.preferences).data ?? {}),
  };
}

/** Writes part of what is somebody's own. A room nobody holds has nobody to keep it for. */
async function write(tx: Tx, access: Access, part: Partial<typeof ownRooms.$inferInsert>): Promise<void> {
  const key = { siteId: access.site.id, personId: Number(access.who.id) };
  if (key.personId <= 0) return;
  const fresh = { ...part, updatedAt: now() };
  await tx
    .insert(ownRooms)
    .values({ ...key, ...fresh })
    .onConflictDoUpdate({ target: ownRooms.personId, set: fresh });
}

/** Runs in a transaction. */
export async function changeOwnMenu(tx: Tx, access: Access, change: MenuChange): Promise<OwnMenu> {
  await write(tx, access, {});
  const [row] = await tx.select({ menu: ownRooms.menu }).from(ownRooms).where(mine(access)).for('update');
  const next = changedMenu(ownMenuSchema.safeParse(row?.menu).data ?? usualMenu(), change);
  if (next === null) throw new Problem('favourites-full');
  await write(tx, access, { menu: next });
  return next;
}

/** Chooses how the back office is read, as far as that is left free. Runs in a transaction. */
export async function changePreferences(tx: Tx, access: Access, given: Partial<Preferences>): Promise<Preferences> {
  const plan = startPreferences(access.plan);
  const fixed = plan.fixed.find((one) => given[one] !== undefined);
  if (fixed) throw new Problem('preference-fixed');
  await write(tx, access, {});
  const [row] = await tx.select({ preferences: ownRooms.preferences }).from(ownRooms).where(mine(access)).for('update');
  const next = { ...(chosen.safeParse(row?.preferences).data ?? {}), ...given };
  await write(tx, access, { preferences: next });
  return preferencesOf(plan, next);
}
