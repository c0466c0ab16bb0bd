import { chosenPreferences, preferencesOf } from '@/core/own';
import { startPreferences, type Plan } from '@/core/plan';
import { dateLanguageOf, screenLanguageOf, type Calendar } from '@/core/words';

interface Where {
  timeZone: string;
  languages: readonly string[];
}

/** How a website tells dates: what is kept for everybody to read, like the activity and mails. */
export const siteCalendar = ({ timeZone, languages }: Where): Calendar => ({
  timeZone,
  language: dateLanguageOf(languages[0]),
});

/** How dates are told to somebody, by what they chose. */
export function ownCalendar(site: Where, plan: Plan, chosen: unknown): Calendar {
  const { dates } = preferencesOf(startPreferences(plan), chosenPreferences(chosen));
  return { timeZone: site.timeZone, language: screenLanguageOf(dates === 'site' ? site.languages[0] : dates) };
}
