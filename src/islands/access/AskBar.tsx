import { useState } from 'react';
import { isDay } from '@/core/words';
import { Safe } from '../kit/parts';
import { WhenField } from '../kit/when/WhenField';
import { PagePicker } from '../kit/PagePicker';

export interface AskBarProps {
  /** Address of the screen; choosing something opens it anew with the choice. */
  path: string;
  asked: Record<string, string>;
  /** What is asked about lies on a page; the one chosen, by name. */
  page?: string;
  /** Name and choices of further questions, by their name in the address. */
  choices: { id: string; label: string; options: { value: string; name: string; group?: string }[] }[];
  pageLabel?: string;
  /** A day can be asked about, too. */
  dated?: boolean;
}

/** The day asked about: what is typed counts when the field is left, a day chosen at once. */
function DayAsked({ value, onAsk }: { value: string; onAsk: (day: string) => void }) {
  const [day, setDay] = useState(value);
  const ask = (one: string) => {
    if (one !== value && (one === '' || isDay(one))) onAsk(one);
  };
  return (
    <span
      className="block w-[15rem]"
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && ask(day)}
      onKeyDown={(event) => event.key === 'Enter' && ask(day)}
    >
      <WhenField id="ask-on" kind="day" value={day} onChange={setDay} onChoose={ask} />
    </span>
  );
}

/**
 * The question a screen about access answers, as fields; each choice is kept in the address, so that it can be passed
 * on and come back to.
 */
export function AskBar({ path, asked, page, choices, pageLabel, dated }: AskBarProps) {
  const go = (id: string, value: string) => {
    // What else the screen keeps in its address, such as how a table is looked at, stays.
    const query = new URLSearchParams(location.search);
    for (const [name, said] of Object.entries({ ...asked, [id]: value })) {
      if (said === '') query.delete(name);
      else query.set(name, said);
    }
    location.assign(`${path}?${query.toString()}`);
  };
  return (
    <Safe>
      <div className="no-print mb-4 flex flex-wrap items-end gap-3" role="group" aria-label="What is asked">
        {choices.map(({ id, label, options }) => {
          const groups = [...new Set(options.map((o) => o.group))];
          return (
            <div key={id}>
              <label className="label" htmlFor={`ask-${id}`}>
                {label}
              </label>
              <select
                id={`ask-${id}`}
                className="field max-w-[17rem]"
                value={asked[id] ?? ''}
                onChange={(event) => go(id, event.target.value)}
              >
                {groups.map((group) => {
                  const list = options
                    .filter((o) => o.group === group)
                    .map((o) => (
                      <option key={o.value} value={o.value}>
                        {o.name}
                      </option>
                    ));
                  return group === undefined ? (
                    list
                  ) : (
                    <optgroup key={group} label={group}>
                      {list}
                    </optgroup>
                  );
                })}
              </select>
            </div>
          );
        })}
        {page !== undefined && (
          <div className="w-[14rem] max-w-full">
            <PagePicker
              label={pageLabel ?? 'On which branch'}
              pages="plan"
              now={page}
              value={asked['branch'] ?? ''}
              {...(!pageLabel && { whole: 'The whole website' })}
              onChange={(id) => go('branch', id)}
            />
          </div>
        )}
        {dated && (
          <div>
            <label className="label" htmlFor="ask-on">
              On which day
            </label>
            <DayAsked value={asked['on'] ?? ''} onAsk={(day) => go('on', day)} />
          </div>
        )}
      </div>
    </Safe>
  );
}
