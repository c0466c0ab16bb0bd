import type { Preference, Preferences } from '@/core/own';
import { SCREEN_LANGUAGES, sayCalendarDay } from '@/core/words';

const languageNames = new Intl.DisplayNames(['en'], { type: 'language' });

/** What can be chosen of how the back office is read, by name; the usual first. */
export const READING: { [P in Preference]: readonly (readonly [Preferences[P], string])[] } = {
  text: [
    [100, 'Usual'],
    [112, 'Larger'],
    [125, 'Large'],
    [150, 'Very large'],
  ],
  density: [
    ['roomy', 'Roomy'],
    ['close', 'Close'],
  ],
  palette: [
    ['paper', 'Paper and pine'],
    ['slate', 'Slate'],
    ['night', 'Night, light on dark'],
    ['contrast', 'Strong contrast'],
  ],
  motion: [
    ['system', 'As this computer is set'],
    ['less', 'As little as can be'],
  ],
  bar: [
    ['shown', 'Shown'],
    ['away', 'Put away'],
  ],
  dates: [
    ['site', 'As the website tells them'],
    ...SCREEN_LANGUAGES.map(
      (language) => [language, `${languageNames.of(language)}: ${sayCalendarDay('2026-11-25', language)}`] as const,
    ),
  ],
};
