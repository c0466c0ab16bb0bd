import type { Layout } from '@/core/content';
import type { Control, ItemType } from '@/core/inventory';

/** The fields of some layouts that hold long text. */
const textsOf = (layouts: readonly Layout[]): string[] => [
  ...new Set(
    layouts.flatMap(({ fields }) =>
      fields.filter(({ kind }) => kind === 'rich' || kind === 'pieces').map(({ id }) => id),
    ),
  ),
];

/**
 * What every screen has on which an item is edited, whatever its type: `src/islands/editor/ItemEditor.tsx` shows it.
 */
export function editControls({
  type,
  one,
  screen,
  layouts,
}: Pick<ItemType, 'one' | 'screen' | 'layouts'> & { type: string }): Control[] {
  // Only a page has fields that a layout may lack, and that some may not change.
  const texts = type === 'page' ? { fields: textsOf(layouts) } : {};
  return [
    {
      id: `${screen}.toolbar`,
      name: 'Toolbar',
      screen,
      description: 'The formatting tools you have.',
      needs: `${type}.edit`,
    },
    {
      id: `${screen}.tool.link`,
      name: 'Link',
      screen,
      description: 'Makes the chosen words lead somewhere.',
      needs: `${type}.edit`,
      tool: 'link',
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
      id: `${screen}.schedule`,
      name: 'Times',
      screen,
      said: ['publish tomorrow', 'later', 'at a time', 'at midnight', 'take down by itself'],
      description: `When the ${one} goes live or is taken down by itself.`,
      needs: `${type}.publish`,
    },
    {
      id: `${screen}.checks`,
      name: 'Before it goes out',
      screen,
      said: ['broken links', 'what is missing', 'long sentences'],
      description: `What may be wrong with the ${one}, in plain words.`,
      needs: `${type}.edit`,
    },
    {
      id: `${screen}.notes`,
      name: 'Notes',
      screen,
      said: ['note for a colleague', 'leave a note', 'internal note'],
      description: `Words among those who keep the ${one}. Visitors never see them.`,
      needs: `${type}.edit`,
    },
    {
      id: `${screen}.note`,
      name: 'What did you change?',
      screen,
      description: 'A word to whoever gives the second look.',
      needs: `${type}.send`,
    },
    {
      id: `${screen}.send`,
      name: 'Send for a second look',
      screen,
      description: 'Hands your draft to somebody else; visitors see it when they publish it.',
      needs: `${type}.send`,
    },
    {
      id: `${screen}.publish`,
      name: 'Publish now',
      screen,
      description: 'Puts your draft on the website at once.',
      needs: `${type}.publish`,
    },
    {
      id: `${screen}.versions`,
      name: 'Earlier versions',
      screen,
      said: ['old version', 'go back', 'as it was before', 'undo publishing', 'compare with earlier'],
      description: `Everything this ${one} once said. Nothing is ever overwritten.`,
    },
  ];
}
