import { lazy, Suspense, useState } from 'react';
import { emptyDocument, isEmptyDocument, isHref, asHref, SHORT_TEXT_TOOLS, shortTextSchema } from '@/core/content';
import { HOLDS, type Hold, type PlacedWidget, type Size, type WidgetSettings } from '@/core/dashboard';
import { entryName, HOLD_NAMES } from '@/core/plan';
import { inventory } from '@/office';
import { Icon } from '../../kit/Icon';
import { PagePicker } from '../../kit/PagePicker';
import { Labelled } from '../../kit/parts';
import { WritingSkeleton } from '../../editor/WritingSkeleton';
import type { WorkshopPage } from '../model';
import type { Change } from '../usePlan';

const WritingArea = lazy(() => import('../../editor/WritingArea'));

const HOLD_HINTS: Record<Hold, string> = {
  fixed: 'Nobody can move it or put it away.',
  move: 'They may put it elsewhere, but it stays on Today.',
  away: 'They may move it and put it away.',
  offered: 'It is not there; they may add it.',
};
const SIZE_NAMES: Record<Size, string> = { narrow: 'One column', wide: 'Two columns', full: 'All columns' };

type Links = NonNullable<WidgetSettings['links']>;

function LinksEditor({ links, onChange }: { links: Links; onChange: (links: Links) => void }) {
  const set = (i: number, one: Partial<Links[number]>) =>
    onChange(links.map((link, k) => (k === i ? { ...link, ...one } : link)));
  return (
    <fieldset>
      <legend className="label">Links</legend>
      <ul className="grid gap-2">
        {links.map((link, i) => (
          <li key={i} className="grid gap-1.5 rounded-s border border-line p-2">
            <input
              className="field"
              aria-label={`Name of link ${i + 1}`}
              placeholder="What it is called"
              maxLength={80}
              value={link.name}
              onChange={(event) => set(i, { name: event.target.value })}
            />
            <div className="flex gap-1.5">
              <input
                className="field min-w-0 flex-1"
                aria-label={`Address of link ${i + 1}`}
                placeholder="/room/pages or https://…"
                value={link.href}
                onChange={(event) => set(i, { href: event.target.value })}
                onBlur={(event) => set(i, { href: asHref(event.target.value) })}
              />
              <button
                type="button"
                className="btn btn-small"
                aria-label={`Take link ${i + 1} away`}
                onClick={() => onChange(links.filter((_, k) => k !== i))}
              >
                <Icon name="close" size={15} />
              </button>
            </div>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-small mt-2"
        disabled={links.length >= 20}
        onClick={() => onChange([...links, { name: '', href: '' }])}
      >
        <Icon name="plus" size={15} /> Add a link
      </button>
    </fieldset>
  );
}

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
  const widget = inventory.widgets.get(entry.widget);
  const takes = widget?.takes ?? [];
  const [heading, setHeading] = useState(entry.heading ?? '');
  const [settings, setSettings] = useState<WidgetSettings>(entry.settings ?? {});
  const [words, setWords] = useState(entry.settings?.words ?? emptyDocument());
  const [fault, setFault] = useState<string | null>(null);
  const set = (more: Partial<PlacedWidget>) =>
    change({
      do: 'set-widget',
      role,
      entry: entry.id,
      widget: entry.widget,
      hold: entry.hold,
      size: entry.size,
      ...(entry.heading && { heading: entry.heading }),
      ...(entry.settings && { settings: entry.settings }),
      ...more,
    });
  const keep = () => {
    const text = shortTextSchema.safeParse(words);
    const links = (settings.links ?? []).filter(({ name, href }) => name.trim() || href.trim());
    const odd = links.find(({ name, href }) => !name.trim() || !isHref(href));
    if (odd)
      return setFault(
        odd.name.trim()
          ? `“${odd.name}” needs an address that begins with https://, mailto:, tel: or /.`
          : 'A link has no name.',
      );
    if (takes.includes('words') && !text.success)
      return setFault(
        'These words hold something a short text has no place for: use paragraphs, lists, bold, italic and links.',
      );
    setFault(null);
    const { words: _, links: __, ...rest } = settings;
    const next: WidgetSettings = {
      ...rest,
      ...(takes.includes('words') && text.success && !isEmptyDocument(text.data) && { words: text.data }),
      ...(links.length > 0 && { links }),
    };
    const { heading: ___, settings: ____, ...plain } = entry;
    change({
      do: 'set-widget',
      role,
      entry: entry.id,
      widget: entry.widget,
      hold: plain.hold,
      size: plain.size,
      ...(heading.trim() && { heading: heading.trim() }),
      ...(Object.keys(next).length > 0 && { settings: next }),
    });
  };
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
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <fieldset disabled={readOnly} className="grid gap-3">
          <Labelled label="Heading">
            {(ids) => (
              <input
                {...ids}
                className="field"
                maxLength={80}
                placeholder={widget?.name}
                value={heading}
                onChange={(event) => setHeading(event.target.value)}
              />
            )}
          </Labelled>
          {takes.includes('most') && (
            <Labelled label="How many entries">
              {(ids) => (
                <input
                  {...ids}
                  type="number"
                  min={1}
                  max={20}
                  className="field w-24"
                  placeholder="5"
                  value={settings.most ?? ''}
                  onChange={(event) =>
                    setSettings({ ...settings, most: event.target.value ? Number(event.target.value) : undefined })
                  }
                />
              )}
            </Labelled>
          )}
          {takes.includes('kind') && (
            <Labelled label="Which kind">
              {(ids) => (
                <select
                  {...ids}
                  className="field"
                  value={settings.kind ?? ''}
                  onChange={(event) => setSettings({ ...settings, kind: event.target.value || undefined })}
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
                setSettings({
                  ...settings,
                  branch: branch && pages.find((page) => page.id === branch)?.parent !== null ? branch : undefined,
                })
              }
            />
          )}
          {takes.includes('words') && !readOnly && (
            <Suspense fallback={<WritingSkeleton />}>
              <WritingArea
                label="Words"
                loaded={entry.settings?.words ?? emptyDocument()}
                onReady={() => () => undefined}
                with={{ tools: SHORT_TEXT_TOOLS, keep: {}, groups: [] }}
                allTools={[...inventory.tools.values()]}
                readOnly={false}
                pictures={[]}
                small
                previewHref={null}
                onChange={(text) => setWords(text)}
                onPreview={() => Promise.resolve()}
              />
            </Suspense>
          )}
          {takes.includes('links') && (
            <LinksEditor links={settings.links ?? []} onChange={(links) => setSettings({ ...settings, links })} />
          )}
          <div role="alert" className="empty:hidden">
            {fault && <p className="note note-brick">{fault}</p>}
          </div>
          {!readOnly && (
            <div className="flex flex-wrap gap-2">
              <button type="submit" className="btn btn-main">
                Set
              </button>
              <button type="button" className="btn" onClick={onRemove}>
                Take off Today
              </button>
            </div>
          )}
        </fieldset>
      </form>
    </section>
  );
}
