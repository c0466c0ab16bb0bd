import { useCombobox } from 'downshift';
import { useMemo, useState } from 'react';
import { makeFinder, type Findable } from '@/core/task';
import { Icon } from '../kit/Icon';
import { startTour } from '../tour/model';

export interface AskEntry extends Findable {
  kind: 'task' | 'door';
  href: string;
  /** Minutes of its tour; none when it cannot be taken. */
  minutes?: number;
}

/** "Where do I…?": finds tasks and doors of this room in plain words. Choosing a task starts its tour, a door opens. */
export function Ask({ entries }: { entries: AskEntry[] }) {
  const find = useMemo(() => makeFinder(entries), [entries]);
  const [asked, setAsked] = useState('');
  const found = useMemo(() => (asked.trim() === '' ? entries.filter((e) => e.kind === 'task').slice(0, 5) : find(asked)), [asked, entries, find]);
  const example = entries.find((e) => e.kind === 'task')?.name.toLowerCase() ?? 'find a page';
  const box = useCombobox<AskEntry>({
    id: 'ask',
    items: found,
    inputValue: asked,
    itemToString: (entry) => entry?.name ?? '',
    onInputValueChange: ({ inputValue, type }) => {
      if (type === useCombobox.stateChangeTypes.InputChange) setAsked(inputValue);
    },
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return;
      setAsked('');
      if (selectedItem.kind === 'task') startTour(selectedItem.id);
      else location.assign(selectedItem.href);
    },
    selectedItem: null,
    stateReducer: (_, { changes, type }) => (type === useCombobox.stateChangeTypes.InputChange ? { ...changes, highlightedIndex: 0 } : changes),
  });
  return (
    <div className="relative w-full max-w-[26rem]" data-anchor="frame.ask">
      <label {...box.getLabelProps()} className="sr-only">
        Where do I…?
      </label>
      <span className="pointer-events-none absolute top-1/2 left-4 -translate-y-1/2 text-ink-2">
        <Icon name="search" />
      </span>
      <input {...box.getInputProps({ placeholder: `Where do I…? Try “${example}”` })} className="field min-h-[42px] truncate rounded-full pl-11" />
      <ul {...box.getMenuProps()} className={`card absolute top-full right-0 left-0 z-30 mt-1 max-h-[70vh] overflow-y-auto p-1 shadow-lg ${box.isOpen ? '' : 'hidden'}`}>
        {box.isOpen &&
          found.map((entry, index) => (
            <li key={`${entry.kind} ${entry.id}`} {...box.getItemProps({ item: entry, index })} className={`cursor-pointer rounded-s px-3 py-2 ${box.highlightedIndex === index ? 'bg-pine-soft' : ''}`}>
              <span className="flex items-center justify-between gap-3 font-semibold">
                <span className="clip">{entry.name}</span>
                <span className="flex shrink-0 items-center gap-1 text-sm text-pine">
                  <Icon name={entry.kind === 'task' ? 'way' : 'door'} size={16} />
                  {entry.kind === 'task' ? 'Point the way' : 'Open'}
                </span>
              </span>
              <span className="block text-sm text-ink-2">{entry.purpose}</span>
            </li>
          ))}
        {box.isOpen && found.length === 0 && <li className="px-3 py-3 text-ink-2">Nothing of yours fits “{asked}”. Try other words, or ask the keyholder.</li>}
      </ul>
    </div>
  );
}
