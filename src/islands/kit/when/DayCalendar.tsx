import { DayPicker } from 'react-day-picker';
import { ar, de, enGB, enUS, fr, he, nb, nl, pl } from 'react-day-picker/locale';

const LOCALES = { 'en-GB': enGB, 'en-US': enUS, nl, fr, de, nb, pl, ar, he };

/** A month to choose a day from, by pointer or arrow keys. */
export default function DayCalendar({
  day,
  language,
  today,
  onChoose,
}: {
  /** `2026-12-04`; empty for none. */
  day: string;
  language: string;
  today: string;
  onChoose: (day: string) => void;
}) {
  const at = (text: string) => {
    const [year = 0, month = 1, date = 1] = text.split('-').map(Number);
    return new Date(year, month - 1, date);
  };
  const key = (date: Date) =>
    [
      String(date.getFullYear()).padStart(4, '0'),
      ...[date.getMonth() + 1, date.getDate()].map((n) => String(n).padStart(2, '0')),
    ].join('-');
  const chosen = day === '' ? undefined : at(day);
  return (
    <DayPicker
      mode="single"
      autoFocus
      showOutsideDays
      locale={LOCALES[language as keyof typeof LOCALES] ?? enGB}
      dir={language === 'ar' || language === 'he' ? 'rtl' : 'ltr'}
      today={at(today)}
      selected={chosen}
      defaultMonth={chosen ?? at(today)}
      onSelect={(date) => onChoose(key(date ?? chosen ?? at(today)))}
      classNames={{
        months: 'relative',
        month_caption: 'mb-2 flex h-8 items-center justify-center font-head font-semibold',
        nav: 'absolute inset-x-0 top-0 flex h-8 justify-between',
        button_previous: 'flex h-8 w-8 items-center justify-center rounded-s hover:bg-pine-soft',
        button_next: 'flex h-8 w-8 items-center justify-center rounded-s hover:bg-pine-soft',
        chevron: 'h-4 w-4 fill-current',
        weekday: 'h-8 w-9 text-sm font-normal text-ink-2',
        day: 'h-9 w-9 p-0 text-center',
        day_button: 'h-9 w-9 rounded-s hover:bg-pine-soft',
        outside: 'text-ink-2',
        today: 'font-bold underline underline-offset-4',
        selected: '[&>button]:bg-pine [&>button]:text-sheet',
      }}
    />
  );
}
