import { useState } from 'react';
import { arranged, type Board, type OwnChange, type PlacedWidget, type Size } from '@/core/dashboard';
import type { Own } from '@/core/dashboard';
import { entryName } from '@/core/plan';
import { BoardEditor } from '../kit/BoardEditor';
import { Icon } from '../kit/Icon';
import { ProblemNote, Said, useFocusLater } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { onSite, useInventory } from '../kit/inventory';

const SIZE_NAMES: Record<Size, string> = { narrow: 'one column', wide: 'two columns', full: 'all columns' };

/** Today as somebody arranges it for themselves, within what the plan leaves free. */
export const ArrangeToday = onSite(function ArrangeToday({
  board,
  own: begun,
  canUndo: begunUndo,
  trial,
}: {
  board: Board;
  own: Own;
  canUndo: boolean;
  /** Nothing is kept: said so. */
  trial: boolean;
}) {
  const inventory = useInventory();
  const [own, setOwn] = useState(begun);
  const [canUndo, setCanUndo] = useState(begunUndo);
  const [said, setSaid] = useState<string | null>(null);
  const { act, busy, problem } = useSend();
  const focusLater = useFocusLater();
  const { columns, shown, away, offered } = arranged(board, own);
  const name = (entry: PlacedWidget) => entryName(inventory, entry);
  const change = async (asked: OwnChange | { do: 'undo' }, words: string, focus?: string) => {
    const sent = await act('PUT', '/api/own-today', asked);
    if (!sent?.ok) return;
    setOwn(sent.value.own);
    setCanUndo(sent.value.canUndo);
    setSaid(words);
    if (focus) focusLater(focus);
  };
  const takeAway = (entry: PlacedWidget) =>
    void change({ do: 'show', entry: entry.id, on: false }, `“${name(entry)}” is put away.`, `bring-${entry.id}`);
  const bring = (entry: PlacedWidget) =>
    void change({ do: 'show', entry: entry.id, on: true }, `“${name(entry)}” is on Today.`, `put-${entry.id}`);
  const draw = (id: string) => {
    const entry = shown.find((one) => one.id === id);
    if (!entry) return null;
    const widget = inventory.widgets.get(entry.widget);
    const sizes = columns > 1 ? (widget?.sizes ?? []) : [];
    return (
      <>
        <div className="flex items-start gap-1">
          <p className="clip flex-1 font-semibold">{name(entry)}</p>
          {(entry.hold === 'away' || entry.hold === 'offered') && (
            <button
              type="button"
              id={`put-${entry.id}`}
              className="flex h-7 w-7 shrink-0 items-center justify-center rounded-s text-ink-2 hover:bg-brick-soft"
              aria-label={`Put ${name(entry)} away`}
              disabled={busy}
              onClick={() => takeAway(entry)}
            >
              <Icon name="close" size={16} />
            </button>
          )}
        </div>
        <p className="text-sm text-ink-2">
          {entry.hold === 'fixed' ? 'Stays where the office put it.' : widget?.description}
        </p>
        {entry.hold !== 'fixed' && sizes.length > 1 && (
          <label className="mt-1 flex items-center gap-2 text-sm text-ink-2">
            Over
            <select
              className="field w-auto px-1.5 py-0.5 text-sm"
              aria-label={`Width of ${name(entry)}`}
              value={entry.size}
              disabled={busy}
              onChange={(event) =>
                void change(
                  { do: 'size', entry: entry.id, size: event.target.value as Size },
                  `“${name(entry)}” goes over ${SIZE_NAMES[event.target.value as Size]}.`,
                )
              }
            >
              {sizes.map((size) => (
                <option key={size} value={size}>
                  {SIZE_NAMES[size]}
                </option>
              ))}
            </select>
          </label>
        )}
      </>
    );
  };
  return (
    <section aria-label="Arrange Today" className="mt-5 grid gap-4">
      <div className="sticky top-0 z-10 flex flex-wrap items-center gap-x-5 gap-y-2 rounded-[10px] border border-pine bg-pine-soft px-4 py-3">
        <h2 className="text-[1.1rem]">Arrange Today</h2>
        <p className="min-w-[14rem] flex-1 text-[0.95rem]">
          Drag by the dots, or press Space on them and use the arrow keys.{' '}
          {trial ? 'This is a trial: nothing of it is kept.' : 'Only you see it so, on every computer you use.'} What
          has a lock stays where the office put it.
        </p>
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn"
            disabled={busy || !canUndo}
            onClick={() => void change({ do: 'undo' }, 'Your last change is taken back.')}
          >
            <Icon name="undo" /> Undo
          </button>
          <button
            type="button"
            className="btn"
            disabled={busy}
            onClick={() => void change({ do: 'as-prepared' }, 'Today is as it was prepared. Undo brings yours back.')}
          >
            As prepared
          </button>
          <a className="btn btn-main" href="/room">
            Done
          </a>
        </div>
      </div>
      <ProblemNote problem={problem} />
      <p role="status" className="sr-only">
        {said}
      </p>
      {shown.length === 0 && <Said words="Nothing is on Today but your tasks. Bring something back from below." />}
      <BoardEditor
        columns={columns}
        cards={shown.map((entry) => ({
          id: entry.id,
          name: name(entry),
          column: entry.column,
          locked: entry.hold === 'fixed',
        }))}
        draw={draw}
        onMove={(entry, to) =>
          void change({ do: 'move', entry, ...to }, `It stands in column ${to.column + 1}, at place ${to.index + 1}.`)
        }
      />
      {[
        { title: 'Put away by you', list: away, verb: 'Bring back' },
        { title: 'Offered, not used', list: offered, verb: 'Add' },
      ].map(
        ({ title, list, verb }) =>
          list.length > 0 && (
            <section key={title} aria-label={title}>
              <h2 className="mb-1.5 text-base">{title}</h2>
              <ul className="flex flex-wrap gap-2">
                {list.map((entry) => (
                  <li
                    key={entry.id}
                    className="flex max-w-full items-center gap-3 rounded-[10px] border border-dashed border-line-2 bg-paper px-3 py-2"
                  >
                    <span className="clip font-semibold">{name(entry)}</span>
                    <button
                      type="button"
                      id={`bring-${entry.id}`}
                      className="btn btn-small"
                      disabled={busy}
                      onClick={() => bring(entry)}
                    >
                      <Icon name="plus" size={15} /> {verb}
                      <span className="sr-only"> {name(entry)}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          ),
      )}
    </section>
  );
});
