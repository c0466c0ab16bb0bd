import { toolName, type Inventory } from '@/core/inventory';
import { Icon, isIcon, type IconName } from '../../kit/Icon';

const ICONS: Record<string, IconName> = {
  bullets: 'list',
  'mode.preview': 'screen',
  'mode.code': 'code',
  'paste.form': 'copy',
  'picture.own': 'picture',
  'picture.folder': 'picture',
  'picture.all': 'images',
};
/** Tools of one family share a picture: `link.web`, `link.mail`. */
export function toolIcon(id: string): IconName {
  const [family = id] = id.split('.');
  return ICONS[id] ?? (isIcon(family) ? family : 'file');
}

/** Tools whose picture alone says what they are. */
const BARE = new Set([
  'bold',
  'italic',
  'bullets',
  'numbers',
  'quote',
  'find',
  'full',
  'link',
  'mode.preview',
  'mode.code',
]);
/** As a toolbar has them: one button for all kinds of links, and nothing for what has no button. */
export function asButtons(inventory: Inventory, tools: readonly string[]): { id: string; name: string }[] {
  const links = tools.filter((id) => id.startsWith('link.'));
  return tools.flatMap((id) => {
    if (id.startsWith('link.')) return id === links[0] ? [{ id: 'link', name: 'Link' }] : [];
    if (id === 'paste.form' || id === 'table.rows' || id === 'picture.all') return [];
    return [{ id, name: toolName(inventory, id) }];
  });
}

/** A button of a toolbar, drawn small. */
export function ToolChip({ id, name, mark }: { id: string; name: string; mark?: 'new' | 'gone' | undefined }) {
  return (
    <span
      title={name}
      className={`inline-flex min-h-6 items-center gap-1 rounded-[4px] border px-1 text-xs font-semibold ${
        mark === 'new'
          ? 'border-pine bg-pine-soft'
          : mark === 'gone'
            ? 'border-dashed border-line-2 text-ink-2 line-through'
            : 'border-line bg-paper'
      }`}
    >
      {mark && <span className="sr-only">{mark === 'new' ? 'new: ' : 'gone: '}</span>}
      <Icon name={toolIcon(id)} size={14} />
      <span className={BARE.has(id) ? 'sr-only' : ''}>{name}</span>
    </span>
  );
}
