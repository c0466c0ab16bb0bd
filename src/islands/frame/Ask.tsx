import { useCombobox } from 'downshift';
import { useDeferredValue, useEffect, useMemo, useRef, useState, type FormEvent, type KeyboardEvent } from 'react';
import type { AskEntry, makeFinder } from '@/core/ask';
import { Icon, type IconName } from '../kit/Icon';
import { send } from '../kit/send';
import { startTour } from '../tour/model';
import { openOwn } from './openOwn';

const KINDS: Record<AskEntry['kind'], { icon: IconName; words: string }> = {
  task: { icon: 'way', words: 'Point the way' },
  door: { icon: 'door', words: 'Open' },
  screen: { icon: 'screen', words: 'Open' },
  control: { icon: 'find', words: 'Take me there' },
  widget: { icon: 'house', words: 'On Today' },
  tool: { icon: 'wrench', words: 'In your toolbar' },
};

/**
 * "Where do I…?": finds tasks, doors, screens and single controls in plain words, whether they are ticked or not.
 * Choosing a task starts its tour, a place opens; what one may not do is found, too, and says so. Begins with what the
 * room brings; all the rest comes when it is first gone to.
 */
export function Ask({ entries: first, keyholder }: { entries: AskEntry[]; /** Whom to ask. */ keyholder: string }) {
  const [known, setKnown] = useState<{ entries: AskEntry[]; learned: Record<string, string> }>({
    entries: first,
    learned: {},
  });
  // Fetched and made ready for the first question only: most screens are left without one.
  const [make, setMake] = useState<{ finder: typeof makeFinder } | null>(null);
  const [isLost, setLost] = useState(false);
  /** Whether all that can be found has come, or will not. */
  const [isWhole, setWhole] = useState(false);
  const find = useMemo(() => make?.finder(known.entries, known.learned), [make, known]);
  const [asked, setAsked] = useState('');
  // Looking for it waits while letters come in: none is lost on a slow machine.
  const sought = useDeferredValue(asked);
  const isEmpty = asked.trim() === '';
  const found = useMemo(
    () =>
      isEmpty
        ? known.entries.filter((e) => e.ticked && e.may).slice(0, 5)
        : sought.trim() === ''
          ? []
          : (find?.(sought) ?? []),
    [isEmpty, sought, known, find],
  );
  /** What was asked with Enter before the answer was there: it is gone to as soon as it is. */
  const [entered, setEntered] = useState<string | null>(null);
  const example = first.find((e) => e.ticked && e.may)?.name.toLowerCase() ?? 'find a page';
  const input = useRef<HTMLInputElement>(null);
  const fetched = useRef(false);
  const [told, setTold] = useState<AskEntry | null>(null);
  const fetchAll = () => {
    if (fetched.current) return;
    fetched.current = true;
    const again = () => {
      fetched.current = false;
    };
    void import('@/core/ask').then(
      ({ makeFinder: finder }) => {
        setMake({ finder });
        setLost(false);
      },
      () => {
        setLost(true);
        again();
      },
    );
    void send('GET', '/api/ask').then((sent) => {
      if (sent.ok) setKnown(sent.value);
      else again();
      setWhole(true);
    });
  };
  const keep = (chosen: string | null) => {
    if (asked.trim() !== '') void send('POST', '/api/ask', { asked: asked.slice(0, 200), chosen });
  };
  // At once: what is told of a change afterwards may come behind the next letter, and that one would be lost.
  const typed = (event: FormEvent<HTMLInputElement>) => {
    setAsked(event.currentTarget.value);
    setTold(null);
    setEntered(null);
    fetchAll();
  };
  const isAnswered = isEmpty || (find !== undefined && isWhole && sought === asked);
  const pressed = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== 'Enter' || isAnswered || event.nativeEvent.isComposing) return;
    event.preventDefault();
    Object.assign(event.nativeEvent, { preventDownshiftDefault: true });
    setEntered(asked);
  };
  const go = (entry: AskEntry) => {
    keep(`${entry.kind} ${entry.id}`);
    setAsked('');
    if (entry.may && openOwn(entry.id)) return;
    if (!entry.may || entry.kind === 'tool') setTold(entry);
    else if (entry.kind === 'task') startTour(entry.id);
    else if (entry.href) location.assign(entry.href);
  };
  const box = useCombobox<AskEntry>({
    id: 'ask',
    items: found,
    inputValue: asked,
    itemToString: (entry) => entry?.name ?? '',
    onSelectedItemChange: ({ selectedItem }) => selectedItem && go(selectedItem),
    onIsOpenChange: ({ isOpen }) => {
      if (!isOpen && find && found.length === 0) keep(null);
    },
    selectedItem: null,
    stateReducer: (_, { changes, type }) =>
      type === useCombobox.stateChangeTypes.InputChange ? { ...changes, highlightedIndex: 0 } : changes,
  });
  const { closeMenu } = box;
  useEffect(() => {
    if (entered === null || entered !== asked || !isAnswered) return;
    setEntered(null);
    const [first] = found;
    if (!first) return;
    closeMenu();
    go(first);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when the answer comes
  }, [entered, asked, isAnswered, found]);
  return (
    <div className="relative w-full max-w-[26rem]" data-anchor="frame.ask">
      <label {...box.getLabelProps()} className="sr-only">
        Where do I…?
      </label>
      <span className="pointer-events-none absolute top-1/2 left-4 -translate-y-1/2 text-ink-2">
        <Icon name="search" />
      </span>
      <input
        {...box.getInputProps({
          ref: input,
          onFocus: fetchAll,
          onChange: typed,
          onKeyDown: pressed,
          placeholder: `Where do I…? Try “${example}”`,
        })}
        {...(found.length === 0 && { 'aria-activedescendant': undefined })}
        className="field min-h-[42px] truncate rounded-full pl-11"
      />
      <div
        className={`card absolute top-full right-0 left-0 z-50 mt-1 max-h-[70vh] overflow-y-auto p-1 shadow-lg ${box.isOpen ? '' : 'hidden'}`}
      >
        <ul {...box.getMenuProps()}>
          {box.isOpen &&
            found.map((entry, index) => (
              <li
                key={`${entry.kind} ${entry.id}`}
                {...box.getItemProps({ item: entry, index })}
                className={`cursor-pointer rounded-s px-3 py-2 ${box.highlightedIndex === index ? 'bg-pine-soft' : ''}`}
              >
                <span className="flex items-center justify-between gap-3 font-semibold">
                  <span className="clip">{entry.name}</span>
                  {entry.may ? (
                    <span className="flex shrink-0 items-center gap-1 text-sm text-pine">
                      <Icon name={KINDS[entry.kind].icon} size={16} />
                      {KINDS[entry.kind].words}
                    </span>
                  ) : (
                    <span className="flex shrink-0 items-center gap-1 text-sm text-ink-2">
                      <Icon name="lock" size={16} />
                      Not in your room
                    </span>
                  )}
                </span>
                <span className="block text-sm text-ink-2">{entry.purpose}</span>
              </li>
            ))}
        </ul>
        {/* Beside the list, which may hold nothing but what can be chosen. */}
        <div role="status">
          {box.isOpen && !isEmpty && found.length === 0 && (
            <p className="px-3 py-3 text-ink-2">
              {find
                ? `Nothing fits “${asked}”. Try other words, or ask ${keyholder}.`
                : isLost
                  ? 'The website does not answer. Type on in a moment, and it is looked for again.'
                  : 'Looking…'}
            </p>
          )}
        </div>
      </div>
      <div role="status" className="empty:absolute">
        {told && !box.isOpen && (
          <div className="card absolute top-full right-0 left-0 z-50 mt-1 p-3 shadow-lg">
            <p>
              <strong>{told.name}</strong>
              {told.may ? `: ${told.purpose}` : ` is not in your room. ${told.why}`}
            </p>
            {!told.may && <p className="mt-1 text-ink-2">Ask {keyholder} if you need it, or to do it for you.</p>}
            <button
              type="button"
              className="btn btn-small mt-2"
              onClick={() => {
                setTold(null);
                input.current?.focus();
              }}
            >
              I see
            </button>
          </div>
        )}
      </div>
    </div>
  );
}
