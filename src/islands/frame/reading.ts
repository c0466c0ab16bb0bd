import type { Preference, Preferences } from '@/core/own';
import { DATE_LANGUAGES, sayCalendarDay, type DateLanguage } from '@/core/words';

const LANGUAGE_NAMES: Record<DateLanguage, string> = {
  'en-GB': 'British English',
  'en-US': 'American English',
  cy: 'Welsh',
  gd: 'Scottish Gaelic',
  nl: 'Dutch',
  fr: 'French',
  de: 'German',
  nb: 'Norwegian',
  pl: 'Polish',
  ar: 'Arabic',
  he: 'Hebrew',
};

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
    ...DATE_LANGUAGES.map(
      (language) => [language, `${LANGUAGE_NAMES[language]}: ${sayCalendarDay('2026-11-25', language)}`] as const,
    ),
  ],
};
