import { useMemo, useState } from 'react';
import { compareField, SETTINGS, mergeContent, type Layout, type IdNames, type PageContent } from '@/core/content';
import { Dialog } from '../kit/parts';
import { Changes } from '../review/Changes';

interface ConflictProps {
  detail: string;
  layout: Layout;
  /** What both began from. */
  base: PageContent;
  mine: PageContent;
  theirs: PageContent;
  names: IdNames;
  /** `asideMine`: some of mine was not chosen, and is put aside first. */
  onKeep: (content: PageContent, asideMine: boolean) => void;
  onTakeTheirs: () => void;
  /** Left for now: what is typed stays in the browser, and the line below the page leads back here. */
  onClose: () => void;
}

/**
 * Two people wrote at once, in the same places. What does not touch is put together already; for the rest both versions
 * stand side by side. Nothing is lost, whichever is taken.
 */
export default function ConflictDialog({
  detail,
  layout,
  base,
  mine,
  theirs,
  names,
  onKeep,
  onTakeTheirs,
  onClose,
}: ConflictProps) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const merged = useMemo(() => mergeContent(layout, base, mine, theirs), [layout, base, mine, theirs]);
  const choose = (id: string, take: boolean) =>
    setChosen(new Set(take ? [...chosen, id] : [...chosen].filter((other) => other !== id)));
  return (
    <Dialog open onClose={onClose} title="Somebody else changed this page" wide>
      <p className="mb-3">{detail}</p>
      <p className="mb-4 text-ink-2">
        {merged.clashes.length === 1
          ? 'You both changed one place'
          : `You both changed ${merged.clashes.length} places`}
        ; everything else is put together already. Struck through is in their version only, underlined is in yours only.
        What you do not choose is put aside under “Earlier versions”.
      </p>
      <ul className="grid gap-4">
        {merged.clashes.map((clash) => (
          <li key={clash.id} className="card bg-paper">
            <Changes
              changes={[...layout.fields, ...SETTINGS]
                .filter((field) => field.id === clash.field)
                .map((field) => compareField(field, clash.theirs, clash.mine, names))}
            />
            <fieldset className="mt-3 flex flex-wrap gap-4">
              <legend className="sr-only">Which version of {clash.name}?</legend>
              {[false, true].map((take) => (
                <label key={String(take)} className="flex min-h-[28px] items-center gap-2">
                  <input
                    type="radio"
                    name={clash.id}
                    className="h-4 w-4 accent-pine"
                    checked={chosen.has(clash.id) === take}
                    onChange={() => choose(clash.id, take)}
                  />{' '}
                  {take ? 'Theirs' : 'Mine'}
                </label>
              ))}
            </fieldset>
          </li>
        ))}
      </ul>
      <div className="mt-5 flex flex-wrap gap-2">
        {chosen.size > 0 && (
          <button type="button" className="btn btn-main" onClick={() => onKeep(merged.choose(chosen), true)}>
            Keep what I chose
          </button>
        )}
        <button
          type="button"
          className={`btn ${chosen.size > 0 ? '' : 'btn-main'}`}
          onClick={() => onKeep(merged.content, false)}
        >
          Keep my version
        </button>
        <button type="button" className="btn" onClick={onTakeTheirs}>
          Take their version
        </button>
      </div>
    </Dialog>
  );
}
