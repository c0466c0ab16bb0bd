import { useState } from 'react';
import { createPortal } from 'react-dom';
import { columnOf, MOST_COLUMNS, saysSame, type PlacedWidget } from '@/core/dashboard';
import { freeId } from '@/core/ids';
import { entryName, HOLD_NAMES, placeOf } from '@/core/plan';
import { BoardEditor } from '../../kit/BoardEditor';
import { Icon } from '../../kit/Icon';
import { useFocusLater } from '../../kit/parts';
import { FirstScreen } from '../dashboard/FirstScreen';
import { WidgetPanel } from '../dashboard/WidgetPanel';
import type { StepProps } from './step';
import { useInventory } from '../../kit/inventory';

const PILLS = { fixed: 'pill-sky', move: 'pill-pine', away: 'pill-plain', offered: 'pill-sun' } as const;

/** Which widgets greet them, where, and what they may do with each. */
export function DashboardStep({ facts, prepared, change, readOnly, best, slot, revision }: StepProps) {
  const inventory = useInventory();
  const { role, person } = prepared;
  const board = role.dashboard;
  const [chosen, setChosen] = useState<string | null>(null);
  const focusLater = useFocusLater();
  const entry = board.widgets.find(({ id }) => id === chosen) ?? null;
  const sees = (id: string) => {
    const needs = inventory.widgets.get(id)?.needs;
    return !needs || best(needs).allowed;
  };
  const whyNot = (id: string) => {
    const needs = inventory.widgets.get(id)?.needs;
    return needs ? `They may not ${inventory.permissions.get(needs)?.name}, so it is not shown.` : '';
  };
  /** It shows what the office sets, and nothing is. */
  const isBlank = ({ widget, settings }: PlacedWidget) =>
    (['words', 'links'] as const).some(
      (key) => inventory.widgets.get(widget)?.takes?.includes(key) && !settings?.[key],
    );
  const isTwin = (one: PlacedWidget) => board.widgets.find((other) => saysSame(other, one)) !== one;
  const remove = (id: string) => {
    const gone = board.widgets.find((one) => one.id === id);
    if (gone) change({ do: 'remove-widget', role: role.id, entry: id, widget: gone.widget });
    setChosen(null);
    if (gone) focusLater(`add-${gone.widget}`);
  };
  const add = (widget: string) => {
    const id = freeId(board.widgets, widget);
    const column = board.columns - 1;
    change({ do: 'place-widget', role: role.id, entry: id, widget, column, index: 99 });
    setChosen(id);
    focusLater('widget-panel');
  };
  const draw = (id: string) => {
    const one = board.widgets.find((placed) => placed.id === id);
    if (!one) return null;
    return (
      <div className="flex items-start gap-1">
        <div className="min-w-0 flex-1">
          <button
            type="button"
            className="clip w-full text-left font-semibold hover:text-pine"
            aria-pressed={chosen === id}
            onClick={() => {
              setChosen(id);
              focusLater('widget-panel');
            }}
          >
            {entryName(inventory, one)}
          </button>
          <p className="mt-0.5 flex flex-wrap gap-1 text-sm">
            <span className={`pill ${PILLS[one.hold]}`}>{HOLD_NAMES[one.hold]}</span>
            {one.size !== 'narrow' && (
              <span className="pill pill-plain">{one.size === 'wide' ? 'two columns' : 'all columns'}</span>
            )}
          </p>
          {!sees(one.widget) && <p className="mt-0.5 text-sm text-brick">{whyNot(one.widget)}</p>}
          {isBlank(one) && (
            <p className="mt-0.5 text-sm text-brick">
              Nothing is set yet; they read “{inventory.widgets.get(one.widget)?.empty}”
            </p>
          )}
          {isTwin(one) && <p className="mt-0.5 text-sm text-brick">The same as another one, so it is not shown.</p>}
        </div>
        {!readOnly && (
          <button
            type="button"
            className="flex h-8 w-8 shrink-0 items-center justify-center rounded-s text-ink-2 hover:bg-brick-soft"
            aria-label={`Take ${entryName(inventory, one)} off Today`}
            onClick={() => remove(id)}
          >
            <Icon name="close" size={16} />
          </button>
        )}
      </div>
    );
  };
  const times = (widget: string) => board.widgets.filter((one) => one.widget === widget).length;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
      {slot &&
        entry &&
        createPortal(
          <WidgetPanel
            key={entry.id}
            role={role.id}
            entry={entry}
            isTwin={isTwin(entry)}
            pages={facts.pages}
            change={change}
            readOnly={readOnly}
            onRemove={() => remove(entry.id)}
          />,
          slot,
        )}
      <div className="flex flex-wrap items-end justify-between gap-3">
        <fieldset className="flex flex-wrap items-center gap-4">
          <legend className="label">Columns on a wide screen</legend>
          {Array.from({ length: MOST_COLUMNS }, (_, i) => i + 1).map((count) => (
            <label key={count} className="flex min-h-[28px] items-center gap-2">
              <input
                type="radio"
                name="columns"
                className="h-4 w-4 accent-pine"
                disabled={readOnly}
                checked={board.columns === count}
                onChange={() => change({ do: 'set-columns', role: role.id, count })}
              />{' '}
              {count}
            </label>
          ))}
        </fieldset>
        {!readOnly && (
          <a className="btn btn-small" href="#widgets">
            <Icon name="plus" size={15} /> Add a widget
          </a>
        )}
      </div>
      <BoardEditor
        columns={board.columns}
        cards={board.widgets.map((one) => ({
          id: one.id,
          name: entryName(inventory, one),
          column: columnOf(board, one),
          locked: readOnly,
          faint: one.hold === 'offered' || !sees(one.widget),
        }))}
        draw={draw}
        chosen={chosen}
        onMove={(id, to) => {
          const one = board.widgets.find((placed) => placed.id === id);
          const old = placeOf(board, id);
          if (one && (old?.column !== to.column || old.index !== to.index))
            change({ do: 'place-widget', role: role.id, entry: id, widget: one.widget, ...to });
        }}
      />
      <FirstScreen
        role={role.id}
        person={person.id === '0' ? null : person.id}
        board={prepared.now.dashboard}
        revision={revision}
      />
      {!readOnly && (
        <section id="widgets" className="scroll-mt-20" aria-label="Widgets to add" tabIndex={-1}>
          <h2 className="mb-1.5 text-base">Add a widget</h2>
          <ul className="grid gap-2 md:grid-cols-2">
            {[...inventory.widgets.values()].map((widget) => (
              <li key={widget.id} className="card flex items-start gap-3 bg-paper p-3">
                <div className="min-w-0 flex-1">
                  <p className="font-semibold">
                    {widget.name}
                    {times(widget.id) > 0 && <span className="ml-2 font-normal text-ink-2">{times(widget.id)} ×</span>}
                  </p>
                  <p className="text-sm text-ink-2">{sees(widget.id) ? widget.description : whyNot(widget.id)}</p>
                </div>
                <button type="button" id={`add-${widget.id}`} className="btn btn-small" onClick={() => add(widget.id)}>
                  <Icon name="plus" size={15} /> Add<span className="sr-only"> {widget.name}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
