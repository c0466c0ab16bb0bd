import { isEmptyValue, keptElsewhere, type Layout, type Layouts, type PageContent } from '@/core/content';
import { pictureSource } from '@/core/toolbar';
import type { EditorProps } from './props';

/** What an edit screen holds for a content of a layout, as it was prepared for who is writing. */
export function preparedFor(
  layout: Layout | undefined,
  content: PageContent,
  {
    layouts,
    settings,
    screens,
    toolbars,
    pictures,
    ownPictures,
    fieldPanels,
  }: Pick<EditorProps, 'settings' | 'screens' | 'toolbars' | 'pictures' | 'ownPictures' | 'fieldPanels'> & {
    layouts: Layouts;
  },
) {
  const screen = screens[layout?.id ?? ''] ?? { elements: {}, main: [], side: [] };
  const textTools = (field: string) => toolbars[layout?.id ?? '']?.[field] ?? { tools: [], keep: {}, groups: [] };
  return {
    screen,
    /** The tools of a text. */
    textTools,
    /** The fields that are filled in in a panel beside the others. */
    inPanels: (layout?.fields ?? []).flatMap((field) => {
      const panel = fieldPanels[field.id];
      return panel === undefined ? [] : [{ panel, field }];
    }),
    firstText: layout?.fields.find((field) => field.kind === 'rich'),
    /** What other layouts left behind and this one does not show. */
    kept: layout ? keptElsewhere(layouts, layout, content).filter((field) => !isEmptyValue(content[field.id])) : [],
    /** Fields by what they are called here. */
    fieldNames: new Map(
      [...(layout?.fields ?? []), ...settings].map((field) => [
        field.id,
        screen.elements[field.id]?.label ?? field.name,
      ]),
    ),
    /** The pictures there are to choose from in a field. */
    picturesIn: (field: string) => {
      const source = pictureSource(textTools(field).tools);
      return source === 'all'
        ? pictures
        : pictures.filter(({ id, ofPart }) => ownPictures.includes(id) || (source === 'part' && ofPart));
    },
    /** Whether the screen hides or locks a field: it tells so itself, where it is. */
    isPreparedAway: (field: string) => {
      const state = screen.elements[field];
      return state?.show === 'hidden' || state?.lock !== undefined;
    },
  };
}
