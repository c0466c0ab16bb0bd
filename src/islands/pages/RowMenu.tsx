import type { ListedPage } from '@/core/content';
import { DropdownMenu } from 'radix-ui';
import { Icon, type IconName } from '../kit/Icon';

export type RowAction = 'make' | 'copy' | 'move' | 'take-down' | 'put-back' | 'delete';

/** What can be done with a page from the tree or the list; only what somebody may. */
export function RowMenu({ page, onAction }: { page: ListedPage; onAction: (action: RowAction) => void }) {
  const isTop = page.parent === null;
  const actions: [RowAction, IconName, string, boolean][] = [
    ['make', 'plus', 'New page below', page.may.create],
    ['copy', 'copy', 'Copy…', page.may.create && !isTop],
    ['move', 'next', 'Move…', page.may.arrange && !isTop],
    ['put-back', 'undo', 'Put back on the website', page.may.retire && page.state === 'down'],
    ['take-down', 'archive', 'Take down…', page.may.retire && !isTop && page.state !== 'down'],
    ['delete', 'close', 'Delete…', page.may.retire && !isTop],
  ];
  const shown = actions.filter(([, , , may]) => may);
  if (shown.length === 0) return null;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        className="flex h-8 w-8 shrink-0 items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
        aria-label={`More for ${page.title}`}
      >
        <Icon name="more" size={17} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="card z-40 min-w-[13rem] p-1">
          {shown.map(([action, icon, words]) => (
            <DropdownMenu.Item
              key={action}
              onSelect={() => onAction(action)}
              className={`flex cursor-pointer items-center gap-2 rounded-s px-3 py-2 outline-none data-[highlighted]:bg-pine-soft ${action === 'delete' ? 'text-brick' : ''}`}
            >
              <Icon name={icon} size={16} /> {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
