import { z } from 'zod';

/** What somebody put into their own menu: a page, a task or a screen, and what it was called then. */
const favouriteSchema = z.strictObject({
  /** `page:…`, `task:…`, or a screen of the Room by its address. */
  to: z
    .string()
    .max(300)
    .regex(
      /^(?!.*\.\.)(task:[\w.-]+|page:\d{1,9}|\/room(\/[\w./-]*)?(\?[\w=&.%-]*)?)$/,
      'is no place in this back office',
    ),
  name: z.string().trim().min(1).max(120),
});
export type Favourite = z.infer<typeof favouriteSchema>;

export const MOST_FAVOURITES = 12;
/** What a person made of the menu: how close it stands, and their own favourites beside it. */
export const ownMenuSchema = z.strictObject({
  narrow: z.boolean(),
  favourites: z.array(favouriteSchema).max(MOST_FAVOURITES),
});
export type OwnMenu = z.infer<typeof ownMenuSchema>;
export const usualMenu = (): OwnMenu => ({ narrow: false, favourites: [] });

export const menuChangeSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('narrow'), on: z.boolean() }),
  z.strictObject({ do: z.literal('keep'), favourite: favouriteSchema }),
  z.strictObject({ do: z.literal('drop'), to: z.string().max(300) }),
]);
export type MenuChange = z.infer<typeof menuChangeSchema>;

/** A change made; null where there is no more room for another favourite. Made twice it is made once. */
export function changedMenu(menu: OwnMenu, change: MenuChange): OwnMenu | null {
  if (change.do === 'narrow') return { ...menu, narrow: change.on };
  const rest = menu.favourites.filter(({ to }) => to !== (change.do === 'keep' ? change.favourite.to : change.to));
  if (change.do === 'drop') return { ...menu, favourites: rest };
  const at = menu.favourites.findIndex(({ to }) => to === change.favourite.to);
  if (at < 0 && rest.length >= MOST_FAVOURITES) return null;
  return { ...menu, favourites: rest.toSpliced(at < 0 ? rest.length : at, 0, change.favourite) };
}
