import { useState } from 'react';
import { LARGE_LETTERS, paletteCss, type Palette, type Preference, type Preferences } from '@/core/own';
import { preferenceName } from '@/core/plan';
import { READING } from './reading';
import { Dialog, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';

/** Puts preferences in force on the screen that is open. */
function show({ text, density, palette, motion }: Preferences): void {
  const root = document.documentElement;
  root.setAttribute('style', `font-size:${text}%;${paletteCss(palette)}`);
  root.dataset['density'] = density;
  if (text >= LARGE_LETTERS) root.dataset['letters'] = 'large';
  else delete root.dataset['letters'];
  root.dataset['motion'] = motion;
  root.dataset['palette'] = palette satisfies Palette;
}

/** How somebody reads the back office: in force at once, on every computer they use. */
export default function OwnReading({
  preferences,
  fixed,
  onClose,
}: {
  preferences: Preferences;
  /** What stays as it was prepared for everybody. */
  fixed: readonly Preference[];
  onClose: (now?: Preferences) => void;
}) {
  const [now, setNow] = useState(preferences);
  const { act, busy, problem } = useSend();
  const choose = async (part: Partial<Preferences>) => {
    const before = now;
    setNow({ ...now, ...part });
    show({ ...now, ...part });
    const sent = await act('PUT', '/api/own-preferences', part);
    if (sent?.ok) return;
    setNow(before);
    show(before);
  };
  return (
    <Dialog open title="Preferences" onClose={() => onClose(now)}>
      <ProblemNote problem={problem} />
      <p className="mb-3 text-ink-2">Only for you, at once, on every computer you use.</p>
      <div className="grid gap-4">
        {(Object.keys(READING) as Preference[]).map((id) => (
          <fieldset key={id} disabled={busy || fixed.includes(id)}>
            <legend className="label">{preferenceName(id)}</legend>
            {READING[id].length > 6 ? (
              <select
                className="field"
                aria-label={preferenceName(id)}
                value={String(now[id])}
                onChange={(event) => {
                  const chosen = READING[id].find(([one]) => one === event.target.value)?.[0];
                  void choose({ [id]: chosen });
                }}
              >
                {READING[id].map(([value, name]) => (
                  <option key={String(value)} value={String(value)}>
                    {name}
                  </option>
                ))}
              </select>
            ) : (
              <div className="flex flex-wrap gap-x-5 gap-y-1">
                {READING[id].map(([value, name]) => (
                  <label key={String(value)} className="flex min-h-[28px] items-center gap-2">
                    <input
                      type="radio"
                      name={id}
                      className="h-4 w-4 accent-pine"
                      checked={now[id] === value}
                      onChange={() => void choose({ [id]: value })}
                    />
                    {name}
                  </label>
                ))}
              </div>
            )}
            {id === 'dates' && <p className="hint">Of days, months and how long ago, from the next screen on.</p>}
            {fixed.includes(id) && <p className="hint">This stays as it was prepared for everybody.</p>}
          </fieldset>
        ))}
      </div>
    </Dialog>
  );
}
