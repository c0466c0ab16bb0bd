import type { Line } from './compareText';
import type { IdNames } from './kinds/kind';
import { keptElsewhere, kindOfField, type Field, type Layout, type Layouts } from './layout';
import { SETTINGS } from './settings';
import type { PageContent } from './value';

export interface FieldChange {
  field: Field;
  changed: boolean;
  lines: Line[];
  /** Kept with the page, but its layout does not show it: visitors do not read it. */
  hidden?: true;
}

function linesOfField(field: Field, before: PageContent, after: PageContent, names: IdNames): Line[] {
  const { compare, say, line: kind = 'Text' } = kindOfField(field);
  if (compare) return compare(field, before, after, names);
  const [a, b] = [before, after].map((content) => say(field, content, names).filter(Boolean)) as [string[], string[]];
  if (a.join('\n') === b.join('\n'))
    return b.map((text) => ({ change: 'same', kind, pieces: [{ change: 'same', text }] }));
  return [
    {
      change: 'changed',
      kind,
      pieces: [
        ...a.map((text) => ({ change: 'removed' as const, text })),
        ...b.map((text) => ({ change: 'added' as const, text })),
      ],
    },
  ];
}

/** One field of two contents, with what changed in it. */
export function compareField(field: Field, before: PageContent, after: PageContent, names: IdNames): FieldChange {
  const lines = linesOfField(field, before, after, names);
  return { field, lines, changed: lines.some((line) => line.change !== 'same') };
}

/** What a content shows: the values its layout has fields for, and its settings. */
export function shownBy(layout: Layout, content: PageContent): PageContent {
  const shown = new Set([...layout.fields, ...SETTINGS].map((field) => field.id));
  return Object.fromEntries(Object.entries(content).filter(([id]) => shown.has(id)));
}

/**
 * Everything that is stored with a page, with what changed in it: every field of the later layout against what the
 * earlier one showed, every setting, and what is kept from other layouts, marked as hidden, against what was kept of it
 * before. So whatever becomes visible stands in what is compared, whichever layout brings it up. A setting or hidden
 * field neither says is left out.
 */
export function compareContent(
  layouts: Layouts,
  [layoutBefore, before]: readonly [Layout, PageContent],
  [layout, after]: readonly [Layout, PageContent],
  names: IdNames,
): FieldChange[] {
  const shown = shownBy(layoutBefore, before);
  const settings = SETTINGS.filter(
    (field) => field.id !== 'page.redirect' && (before[field.id] !== undefined || after[field.id] !== undefined),
  );
  const change = (field: Field, earlier: PageContent) => compareField(field, earlier, after, names);
  const hidden = new Map(
    [...keptElsewhere(layouts, layout, after), ...keptElsewhere(layouts, layout, before)].map((field) => [
      field.id,
      field,
    ]),
  );
  return [
    ...layout.fields.map((field) => change(field, shown)),
    ...settings.map((field) => change(field, before)),
    ...[...hidden.values()]
      .map((field) => ({ ...change(field, before), hidden: true as const }))
      .filter((entry) => entry.lines.some((line) => line.pieces.some((piece) => piece.text !== ''))),
  ];
}
