import { HOLDS, type Hold, type PlacedWidget, type Size, type WidgetSettings } from '@/core/dashboard';
import { entryName, HOLD_NAMES } from '@/core/plan';
import { CommitInput } from '../../kit/CommitInput';
import { CommitNumber } from '../../kit/CommitNumber';
import { PagePicker } from '../../kit/PagePicker';
import { Labelled } from '../../kit/parts';
import type { WorkshopPage } from '../model';
import { ShortText } from '../ShortText';
import type { Change } from '../usePlan';
import { LinksEditor } from './LinksEditor';
import { useInventory } from '../../kit/inventory';

const HOLD_HINTS: Record<Hold, string> = {
  fixed: 'Nobody can move it or put it away.',
  move: 'They may put it elsewhere, but it stays on Today.',
  away: 'They may move it and put it away.',
  offered: 'It is not there; they may add it.',
};
const SIZE_NAMES: Record<Size, string> = { narrow: 'One column', wide: 'Two columns', full: 'All columns' };

/** What is set on one widget of the board: what they may do with it, its width, heading and settings. */
export function WidgetPanel({
  role,
  entry,
  isTwin,
  pages,
  change,
  readOnly,
  onRemove,
}: {
  role: string;
  entry: PlacedWidget;
  /** It would show just what another one shows. */
  isTwin: boolean;
  pages: readonly WorkshopPage[];
  change: Change;
  readOnly: boolean;
  onRemove: () => void;
}) {
  const inventory = useInventory();
  const widget = inventory.widgets.get(entry.widget);
  const takes = widget?.takes ?? [];
  const settings = entry.settings ?? {};
  const set = ({ heading, settings: next, ...more }: Partial<PlacedWidget>) =>
    change({
      do: 'set-widget',
      role,
      entry: entry.id,
      widget: entry.widget,
      hold: entry.hold,
      size: entry.size,
      ...more,
      ...((heading ?? entry.heading) && { heading: heading ?? entry.heading }),
      ...(Object.keys(next ?? settings).length > 0 && { settings: next ?? settings }),
    });
  /** One of its settings, or none of that kind any more. */
  const setOne = (one: WidgetSettings) =>
    set({
      settings: Object.fromEntries(Object.entries({ ...settings, ...one }).filter(([, value]) => value !== undefined)),
    });
  const sizes = widget?.sizes ?? [];
  return (
    <section aria-label={`Widget: ${entryName(inventory, entry)}`} className="grid gap-3">
      <div>
        <h2 id="widget-panel" className="clip">
          {entryName(inventory, entry)}
        </h2>
        <p className="text-sm text-ink-2">{widget?.description}</p>
      </div>
      {isTwin && (
        <p className="note">
          Another one shows just the same, so this one is not there until it has a heading or settings of its own.
        </p>
      )}
      <fieldset disabled={readOnly}>
        <legend className="label">What they may do with it</legend>
        <div className="grid gap-1">
          {HOLDS.toReversed().map((hold) => (
            <label key={hold} className="flex min-h-[28px] items-baseline gap-2">
              <input
                type="radio"
                name="hold"
                className="h-4 w-4 shrink-0 translate-y-0.5 accent-pine"
                checked={entry.hold === hold}
                onChange={() => set({ hold })}
              />
              <span>
                <span className="font-semibold">{`It ${HOLD_NAMES[hold]}`}</span>{' '}
                <span className="text-sm text-ink-2">{HOLD_HINTS[hold]}</span>
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      {sizes.length > 1 && (
        <Labelled label="Width on a wide screen">
          {(ids) => (
            <select
              {...ids}
              className="field"
              disabled={readOnly}
              value={entry.size}
              onChange={(event) => set({ size: event.target.value as Size })}
            >
              {sizes.map((size) => (
                <option key={size} value={size}>
                  {SIZE_NAMES[size]}
                </option>
              ))}
            </select>
          )}
        </Labelled>
      )}
      <fieldset disabled={readOnly} className="grid gap-3">
        <Labelled label="Heading">
          {(ids) => (
            <CommitInput
              {...ids}
              className="field"
              maxLength={80}
              placeholder={widget?.name}
              value={entry.heading ?? ''}
              onCommit={(heading) => set({ heading })}
            />
          )}
        </Labelled>
        {takes.includes('most') && (
          <CommitNumber
            label="How many entries"
            min={1}
            max={20}
            placeholder="5"
            value={settings.most}
            onCommit={(most) => setOne({ most })}
          />
        )}
        {takes.includes('kind') && (
          <Labelled label="Which kind">
            {(ids) => (
              <select
                {...ids}
                className="field"
                value={settings.kind ?? ''}
                onChange={(event) => setOne({ kind: event.target.value || undefined })}
              >
                <option value="">All kinds</option>
                {widget?.kinds?.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
        )}
        {takes.includes('branch') && (
          <PagePicker
            label={entry.widget === 'pages.jot' ? 'Below which page' : 'Of which part of the website'}
            pages={pages}
            value={settings.branch ?? ''}
            whole={entry.widget === 'pages.jot' ? 'The first they may use' : 'All they may see'}
            onChange={(branch) =>
              setOne({
                branch: branch && pages.find((page) => page.id === branch)?.parent !== null ? branch : undefined,
              })
            }
          />
        )}
        {takes.includes('words') && (
          <ShortText
            id={`widget ${role} ${entry.id}`}
            text={settings.words}
            readOnly={readOnly}
            onCommit={(words) => setOne({ words: words ?? undefined })}
          />
        )}
        {takes.includes('links') && (
          <LinksEditor
            id={`widget ${role} ${entry.id}`}
            links={settings.links ?? []}
            readOnly={readOnly}
            onCommit={(links) => setOne({ links: links.length > 0 ? links : undefined })}
          />
        )}
      </fieldset>
      {!readOnly && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="hint">What you type is set when you leave the field.</p>
          <button type="button" className="btn btn-small" onClick={onRemove}>
            Take off Today
          </button>
        </div>
      )}
    </section>
  );
}
