import { Popover } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { dayKey, fieldTime, isDay, isMoment, sayCalendarDay } from '@/core/words';
import { Icon } from '../Icon';
import { later } from '../later';
import type { readTyped, WhenKind } from './typed';

const DayCalendar = later(() => import('./DayCalendar'), <p className="p-3 text-ink-2">One moment…</p>);

/** The language dates are told in to whoever reads the screen, and the site's clock. */
const reading = () => ({
  language: document.documentElement.dataset['dates'] ?? 'en-GB',
  timeZone: document.documentElement.dataset['zone'] ?? 'UTC',
});
const EXAMPLES: Record<WhenKind, string> = { day: '4 Dec', moment: 'tomorrow 9' };
const isKnown = (value: string, kind: WhenKind) => (kind === 'day' ? isDay(value) : isMoment(value));

/** The same as part of a form that is sent as it stands, under a name. */
export function WhenNamed({ name, value: first, ...props }: Omit<WhenFieldProps, 'onChange'> & { name: string }) {
  const [value, setValue] = useState(first);
  return (
    <>
      <input type="hidden" name={name} value={value} />
      <WhenField {...props} value={value} onChange={setValue} />
    </>
  );
}

/** A day or an hour said in full, as somebody reads dates. */
function sayWhen(value: string, kind: WhenKind, language: string): string {
  const day = sayCalendarDay(value.slice(0, 10), language);
  return kind === 'day' ? day : `${day}, ${value.slice(11)}`;
}

export interface WhenFieldProps {
  id?: string;
  'aria-describedby'?: string | undefined;
  'aria-invalid'?: true | undefined;
  'aria-label'?: string;
  kind: WhenKind;
  /** `2026-12-04` or `2026-12-04T09:30`; empty for none; what was typed where it is no date. */
  value: string;
  onChange: (value: string) => void;
  /** A day chosen from the calendar. */
  onChoose?: (value: string) => void;
  /** Whether a day named without its year may lie behind. */
  past?: boolean;
  disabled?: boolean;
  readOnly?: boolean;
}

/**
 * A day, or an hour of one, typed freely or chosen from a calendar, in the order and words of whoever reads it, and said
 * back in full.
 */
export function WhenField({
  kind,
  value,
  onChange,
  onChoose,
  past = false,
  disabled,
  readOnly,
  ...ids
}: WhenFieldProps) {
  // Before the scripts take over nobody knows yet how dates are read here.
  const [told, setTold] = useState<ReturnType<typeof reading> | null>(null);
  useEffect(() => setTold(reading()), []);
  const said = (one: string) => (told && isKnown(one, kind) ? sayWhen(one, kind, told.language) : one);
  /** What stands in the field while somebody types; null: the value, said in full. */
  const [typed, setTyped] = useState<string | null>(null);
  const [isOpen, setOpen] = useState(false);
  const [reader, setReader] = useState<{ read: typeof readTyped } | null>(null);
  const asked = useRef(false);
  const input = useRef<HTMLInputElement>(null);
  const load = () => {
    if (asked.current) return;
    asked.current = true;
    // Where it does not come, days are typed as numbers or chosen.
    void import('./typed').then(
      (module) => setReader({ read: module.readTyped }),
      () => {
        asked.current = false;
      },
    );
  };
  const now = told ? fieldTime(new Date(), told.timeZone) : '';
  const read = (text: string): string =>
    text.trim() === ''
      ? ''
      : ((told && reader?.read(text, { kind, language: told.language, now, past })) ?? text.trim());
  // What was typed before the reader of words came is read when it does.
  useEffect(() => {
    if (typed === null) return;
    const meant = read(typed);
    if (meant !== value) onChange(meant);
    if (isKnown(meant, kind) && document.activeElement !== input.current) setTyped(null);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when it comes
  }, [reader]);
  const isUnclear = typed !== null && value !== '' && !isKnown(value, kind);
  const leave = () => {
    if (typed === null) return;
    const meant = read(typed);
    if (meant !== value) onChange(meant);
    if (meant === '' || isKnown(meant, kind)) setTyped(null);
  };
  const choose = (day: string) => {
    const hour = isMoment(value) ? value.slice(10) : 'T09:00';
    const chosen = kind === 'day' ? day : `${day}${hour}`;
    onChange(chosen);
    onChoose?.(chosen);
    setTyped(null);
    setOpen(false);
  };
  return (
    <span className="relative block">
      <span className="flex gap-1">
        <input
          {...ids}
          ref={input}
          type="text"
          autoComplete="off"
          className="field min-w-0 flex-1"
          disabled={disabled}
          readOnly={readOnly}
          placeholder={`such as ${EXAMPLES[kind]}`}
          value={typed ?? said(value)}
          onFocus={load}
          onChange={(event) => {
            load();
            setTyped(event.target.value);
            onChange(read(event.target.value));
          }}
          onBlur={leave}
        />
        {!readOnly && (
          <Popover.Root open={isOpen} onOpenChange={setOpen}>
            <Popover.Trigger asChild>
              <button
                type="button"
                className="btn min-w-[42px] justify-center px-2"
                disabled={disabled}
                aria-label="Choose the day from a calendar"
              >
                <Icon name="calendar" size={18} />
              </button>
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                align="end"
                sideOffset={4}
                collisionPadding={8}
                className="card z-[60] bg-sheet p-3 shadow-lg"
                aria-label="Calendar"
              >
                {told && (
                  <DayCalendar
                    day={isKnown(value, kind) ? value.slice(0, 10) : ''}
                    language={told.language}
                    today={dayKey(new Date(), told.timeZone)}
                    onChoose={choose}
                  />
                )}
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        )}
      </span>
      {/* Over what stands below: nothing moves away under a press. */}
      <span
        role="status"
        className="absolute top-full left-0 z-10 mt-0.5 rounded-s border border-line bg-sheet px-2 py-0.5 text-sm shadow empty:hidden"
      >
        {typed !== null && told && isKnown(value, kind) && `That is ${said(value)}.`}
        {isUnclear &&
          !ids['aria-invalid'] &&
          `That is no ${kind === 'day' ? 'day' : 'day and hour'} yet. Try “${EXAMPLES[kind]}”.`}
      </span>
    </span>
  );
}
