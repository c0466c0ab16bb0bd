import { kindOfField, type Layout } from '@/core/content';
import type { Control, ItemType } from '@/core/inventory';

/** The fields of some layouts that hold long text. */
const textsOf = (layouts: readonly Layout[]): string[] => [
  ...new Set(layouts.flatMap(({ fields }) => fields.filter((field) => kindOfField(field).texts).map(({ id }) => id))),
];

/**
 * What every screen has on which an item is edited, whatever its type: `src/islands/editor/ItemEditor.tsx` shows it.
 * `panels`: those of its own beside the fields, which stand in this order. Who may only send or publish and not change
 * it has nothing to do so with.
 */
export function editControls({
  type,
  one,
  screen,
  layouts,
  panels = [],
}: Pick<ItemType, 'one' | 'screen' | 'layouts'> & { type: string; panels?: readonly Control[] }): Control[] {
  const may = (verb: 'edit' | 'send' | 'publish') => `${type}.${verb}` as const;
  // Only a page has fields that a layout may lack, and that some may not change.
  const texts = type === 'page' ? { fields: textsOf(layouts) } : {};
  return [
    {
      id: `${screen}.toolbar`,
      name: 'Toolbar',
      screen,
      description: 'The formatting tools you have.',
      needs: may('edit'),
    },
    {
      id: `${screen}.tool.link`,
      name: 'Link',
      screen,
      description: 'Makes the chosen words lead somewhere.',
      needs: may('edit'),
      tools: ['link.page', 'link.file', 'link.web', 'link.mail', 'link.phone'],
      ...texts,
    },
    { id: `${screen}.body`, name: 'Text', screen, description: 'The writing area.', ...texts },
    {
      id: `${screen}.state`,
      name: 'What visitors see',
      screen,
      said: ['draft kept', 'is it saved', 'is it kept', 'on the website yet'],
      description: 'Says which version is on the website, and whether your draft is kept.',
    },
    {
      id: `${screen}.note`,
      name: 'What did you change?',
      screen,
      panel: true,
      description: 'A word to whoever gives the second look.',
      needs: [may('edit'), may('send')],
    },
    {
      id: `${screen}.remarks`,
      name: 'Remarks',
      screen,
      said: ['comments', 'what the reviewer said'],
      description: 'What somebody said of single lines at the second look; answered and settled there.',
      appears: 'while there are remarks',
    },
    {
      id: `${screen}.checks`,
      name: 'Before it goes out',
      screen,
      panel: true,
      said: ['broken links', 'what is missing', 'long sentences'],
      description: `What may be wrong with the ${one}, in plain words.`,
      needs: may('edit'),
    },
    ...panels,
    {
      id: `${screen}.schedule`,
      name: 'Times',
      screen,
      panel: true,
      said: ['publish tomorrow', 'later', 'at a time', 'at midnight', 'take down by itself'],
      description: `When the ${one} goes live or is taken down by itself.`,
      needs: [may('edit'), may('publish')],
    },
    {
      id: `${screen}.notes`,
      name: 'Notes',
      screen,
      panel: true,
      said: ['note for a colleague', 'leave a note', 'note for my colleagues', 'internal note'],
      description: `Words among those who keep the ${one}. Visitors never see them.`,
      needs: may('edit'),
    },
    {
      id: `${screen}.versions`,
      name: 'Earlier versions',
      screen,
      panel: true,
      said: ['old version', 'go back', 'as it was before', 'undo publishing', 'compare with earlier'],
      description: `Everything this ${one} once said. Nothing is ever overwritten.`,
    },
    {
      id: `${screen}.send`,
      name: 'Send for a second look',
      screen,
      description: 'Hands your draft to somebody else; visitors see it when they publish it.',
      needs: [may('edit'), may('send')],
    },
    {
      id: `${screen}.publish`,
      name: 'Publish now',
      screen,
      description: 'Puts your draft on the website at once.',
      needs: [may('edit'), may('publish')],
    },
  ];
}
