import { autoUpdate, computePosition, flip, offset, size } from '@floating-ui/dom';
import { useCombobox } from 'downshift';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { treesOf, type TreeNode } from '@/core/content';
import type { PickedPage } from '@/core/wire';
import { fold } from '@/core/words';
import { Icon } from './Icon';
import { usePages, type PageSource } from './usePages';

/** Pages in the order of the tree, each with its depth and the titles above it. */
export function flatTree<P extends PickedPage>(pages: readonly P[]): { page: P; depth: number; above: string[] }[] {
  const flat: { page: P; depth: number; above: string[] }[] = [];
  const visit = (nodes: TreeNode<P>[], above: string[]) => {
    for (const { page, below } of nodes) {
      flat.push({ page, depth: above.length, above });
      visit(below, [...above, page.title]);
    }
  };
  visit(treesOf(pages), []);
  return flat;
}

/** More would be slow to draw and nobody would read them. */
const MOST = 200;

/**
 * Picks a page from the tree, by typing part of its title or with the arrow keys. `whole` names the choice of the top
 * page.
 */
export function PagePicker({
  label,
  pages: source,
  value,
  onChange,
  whole,
  hideLabel,
  now,
}: {
  label: string;
  /** Pages, or which are to be asked for. */
  pages: readonly PickedPage[] | PageSource;
  value: string;
  onChange: (id: string) => void;
  whole?: string;
  hideLabel?: boolean;
  /** What is chosen, by name, until the pages are there. */
  now?: string;
}) {
  const id = useId();
  const { pages, problem, again } = usePages(source);
  const flat = useMemo(() => flatTree(pages ?? []), [pages]);
  const nameOf = (page: PickedPage) => (whole !== undefined && page.parent === null ? whole : page.title);
  const chosen =
    flat.find((entry) => entry.page.id === value) ?? (whole !== undefined && value === '' ? flat[0] : undefined);
  const before = now ?? (value === '' ? (whole ?? '') : pages === null ? '…' : '');
  const [typed, setTyped] = useState<string | null>(null);
  const words = fold((typed ?? '').trim());
  const found =
    words === '' ? flat : flat.filter((entry) => fold(`${nameOf(entry.page)} ${entry.page.title}`).includes(words));
  const shown = found.slice(0, MOST);
  const box = useCombobox({
    id,
    items: shown,
    inputValue: typed ?? (chosen ? nameOf(chosen.page) : before),
    selectedItem: chosen ?? null,
    itemToString: (entry) => (entry ? nameOf(entry.page) : ''),
    onSelectedItemChange: ({ selectedItem }) => {
      if (selectedItem) onChange(whole !== undefined && selectedItem.page.parent === null ? '' : selectedItem.page.id);
      setTyped(null);
    },
    onIsOpenChange: ({ isOpen }) => {
      if (!isOpen) setTyped(null);
      else if (problem) again();
    },
    stateReducer: (_, { changes, type }) =>
      type === useCombobox.stateChangeTypes.InputChange ? { ...changes, highlightedIndex: 0 } : changes,
  });
  // In the browser's top layer, so that no dialog or scrolling box around the field cuts the list off.
  const field = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const [anchor, menu] = [field.current, list.current];
    if (!anchor || !menu || !box.isOpen) return;
    menu.showPopover();
    const stop = autoUpdate(anchor, menu, () => {
      void computePosition(anchor, menu, {
        strategy: 'fixed',
        placement: 'bottom-start',
        middleware: [
          offset(4),
          flip({ padding: 8 }),
          size({
            padding: 8,
            apply: ({ availableHeight, rects }) =>
              void Object.assign(menu.style, {
                maxHeight: `${Math.min(320, availableHeight)}px`,
                width: `${Math.max(260, rects.reference.width)}px`,
              }),
          }),
        ],
      }).then(({ x, y }) => void Object.assign(menu.style, { left: `${x}px`, top: `${y}px` }));
    });
    return () => {
      stop();
      menu.hidePopover();
    };
  }, [box.isOpen]);
  return (
    <div>
      <label {...box.getLabelProps()} className={hideLabel ? 'sr-only' : 'label'}>
        {label}
      </label>
      <div className="relative" ref={field}>
        <input
          {...box.getInputProps({
            // At once: what is told of a change afterwards may come behind the next letter.
            onChange: (event) => setTyped(event.currentTarget.value),
            onFocus: (event) => event.currentTarget.select(),
            // While a page is being typed, Enter chooses it and never sends the form around the field.
            onKeyDown: (event) => {
              if (event.key === 'Enter' && event.currentTarget.value !== (chosen ? nameOf(chosen.page) : ''))
                event.preventDefault();
            },
          })}
          {...(shown.length === 0 && { 'aria-activedescendant': undefined })}
          className="field truncate pr-9"
          placeholder="Type part of a title"
        />
        <button
          type="button"
          {...box.getToggleButtonProps({ tabIndex: -1 })}
          aria-label={`Show the pages: ${label}`}
          className="absolute top-1/2 right-1 flex h-8 w-8 -translate-y-1/2 items-center justify-center rounded-s text-ink-2"
        >
          <Icon name="down" size={16} />
        </button>
      </div>
      <div ref={list} popover="manual" className="card fixed m-0 overflow-y-auto p-1 text-ink shadow-lg">
        <ul {...box.getMenuProps()}>
          {box.isOpen &&
            shown.map((entry, index) => (
              <li
                key={entry.page.id}
                {...box.getItemProps({ item: entry, index })}
                style={{ paddingLeft: `${0.6 + (words === '' ? entry.depth * 1.1 : 0)}rem` }}
                className={`cursor-pointer rounded-s py-1.5 pr-2 ${box.highlightedIndex === index ? 'bg-pine-soft' : ''} ${entry === chosen ? 'font-bold' : ''}`}
              >
                <span className="clip">{nameOf(entry.page)}</span>
                {words !== '' && entry.above.length > 1 && (
                  <span className="block text-sm font-normal text-ink-2">{entry.above.slice(1).join(' › ')}</span>
                )}
              </li>
            ))}
        </ul>
        {/* Beside the list, which may hold nothing but what can be chosen. */}
        <div role="status">
          {box.isOpen && found.length > MOST && (
            <p className="px-2 py-1.5 text-sm text-ink-2">{found.length - MOST} more. Type part of a title.</p>
          )}
          {box.isOpen && found.length === 0 && (
            <p className="px-2 py-2 text-ink-2">
              {problem
                ? `The pages could not be fetched. ${problem.detail}`
                : pages === null
                  ? 'Fetching the pages…'
                  : `No page has “${typed ?? ''}” in its title.`}
            </p>
          )}
        </div>
      </div>
    </div>
  );
}
