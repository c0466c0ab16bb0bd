import { z } from 'zod';
import { SCREEN_LANGUAGES } from '../words';

/** Colours of the back office, by their names; each is a set of its own whose every pair meets WCAG 2.2 AA. */
export const PALETTES = ['paper', 'slate', 'night', 'contrast'] as const;
export type Palette = (typeof PALETTES)[number];

/** How somebody reads and moves about the back office. */
export const preferencesSchema = z.strictObject({
  /** Size of letters, in percent of the usual. */
  text: z.union([z.literal(100), z.literal(112), z.literal(125), z.literal(150)]),
  density: z.enum(['roomy', 'close']),
  palette: z.enum(PALETTES),
  /** `system`: as the computer is set. */
  motion: z.enum(['system', 'less']),
  /** The line on the website for who is signed in. */
  bar: z.enum(['shown', 'away']),
  /** The language of dates; `site`: as the website tells them. */
  dates: z.enum(['site', ...SCREEN_LANGUAGES]),
});
export type Preferences = z.infer<typeof preferencesSchema>;
/** From which size of letters on words beside pictures make way for what has to be read. */
export const LARGE_LETTERS = 125;
export type Preference = keyof Preferences;

/** What somebody chose, as it is stored; what can no longer be chosen is as if it never was. */
export function chosenPreferences(stored: unknown): Partial<Preferences> {
  const chosen: Partial<Preferences> = {};
  for (const [key, value] of Object.entries(stored ?? {}) as [string, unknown][])
    Object.assign(chosen, preferencesSchema.partial().safeParse({ [key]: value }).data);
  return chosen;
}

export const usualPreferences: Preferences = {
  text: 100,
  density: 'roomy',
  palette: 'paper',
  motion: 'system',
  bar: 'shown',
  dates: 'site',
};

/** What the administrator starts everybody with, and which of it stays so for everybody. */
export const startSchema = z.strictObject({
  start: preferencesSchema.partial(),
  fixed: z.array(preferencesSchema.keyof()),
});
export type StartPreferences = z.infer<typeof startSchema>;

/** What holds for somebody: what they chose as far as that is free, else what everybody starts with. */
export function preferencesOf({ start, fixed }: StartPreferences, own: Partial<Preferences>): Preferences {
  const free = Object.fromEntries(Object.entries(own).filter(([key]) => !fixed.includes(key as Preference)));
  return { ...usualPreferences, ...start, ...free };
}
