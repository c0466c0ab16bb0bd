import { DndContext, closestCorners, useDroppable } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { inventory } from '@/office';
import { dragWords, useDragSensors } from '../../kit/drag';
import { Icon } from '../../kit/Icon';
import type { StepProps } from '../Planner';

function Placed({
  id,
  seen,
  readOnly,
  onRemove,
}: {
  id: string;
  seen: boolean;
  readOnly: boolean;
  onRemove: () => void;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({ id });
  const widget = inventory.widgets.get(id);
  const name = widget?.name ?? id;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translate3d(${transform.x}px, ${transform.y}px, 0)` : undefined, transition }}
      className="card flex items-start gap-2 p-2.5"
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        disabled={readOnly}
        className="flex h-8 w-8 shrink-0 cursor-grab items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
        aria-label={`Move ${name}`}
      >
        <Icon name="grip" />
      </button>
      <div className="min-w-0 flex-1">
        <p className="font-semibold">{name}</p>
        <p className="text-sm text-ink-2">
          {seen
            ? widget?.description
            : `Not shown: they may not ${inventory.permissions.get(widget?.needs ?? 'page.view')?.name}.`}
        </p>
      </div>
      {!readOnly && (
        <button
          type="button"
          className="flex h-8 w-8 shrink-0 items-center justify-center rounded-s text-ink-2 hover:bg-brick-soft"
          aria-label={`Take ${name} off Today`}
          onClick={onRemove}
        >
          <Icon name="close" size={16} />
        </button>
      )}
    </li>
  );
}

function Column({ index, ids, children }: { index: number; ids: string[]; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `column ${index}` });
  return (
    <section
      aria-label={`Column ${index + 1}`}
      className={`rounded-[10px] border border-dashed p-2.5 ${isOver ? 'border-pine bg-pine-wash' : 'border-line-2'}`}
    >
      <h2 className="label px-1">Column {index + 1}</h2>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ul ref={setNodeRef} className="grid min-h-[5rem] content-start gap-2">
          {children}
        </ul>
      </SortableContext>
    </section>
  );
}

/** Which widgets greet them, in what order and how many columns. */
export function DashboardStep({ prepared, change, readOnly, best }: StepProps) {
  const { role } = prepared;
  const { columns } = role.dashboard;
  const placed = columns.flat();
  const sensors = useDragSensors();
  const placeOf = (id: string): { column: number; index: number } | null => {
    if (id.startsWith('column ')) {
      const column = Number(id.slice(7));
      return { column, index: columns[column]?.length ?? 0 };
    }
    const column = columns.findIndex((c) => c.includes(id));
    return column < 0 ? null : { column, index: columns[column]?.indexOf(id) ?? 0 };
  };
  return (
    <div className="grid gap-5">
      <fieldset className="flex flex-wrap items-center gap-4">
        <legend className="label">Columns on a wide screen</legend>
        {[1, 2, 3].map((count) => (
          <label key={count} className="flex min-h-[28px] items-center gap-2">
            <input
              type="radio"
              name="columns"
              className="h-4 w-4 accent-pine"
              disabled={readOnly}
              checked={columns.length === count}
              onChange={() => change({ do: 'set-columns', role: role.id, count })}
            />{' '}
            {count}
          </label>
        ))}
      </fieldset>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCorners}
        accessibility={dragWords((id) => inventory.widgets.get(id)?.name ?? `column ${Number(id.slice(7)) + 1}`)}
        onDragEnd={({ active, over }) => {
          const to = over && placeOf(String(over.id));
          if (to && active.id !== over.id)
            change({ do: 'place-widget', role: role.id, widget: String(active.id), ...to });
        }}
      >
        <div className="grid gap-3" style={{ gridTemplateColumns: `repeat(${columns.length}, minmax(0, 1fr))` }}>
          {columns.map((ids, index) => (
            <Column key={index} index={index} ids={ids}>
              {ids.map((id) => (
                <Placed
                  key={id}
                  id={id}
                  readOnly={readOnly}
                  seen={best(inventory.widgets.get(id)?.needs ?? 'page.view').allowed}
                  onRemove={() => change({ do: 'remove-widget', role: role.id, widget: id })}
                />
              ))}
              {ids.length === 0 && <li className="px-1 text-sm text-ink-2">Empty: not shown on Today.</li>}
            </Column>
          ))}
        </div>
      </DndContext>
      <section aria-label="Widgets not used">
        <h2 className="mb-1.5 text-base">Not used</h2>
        <ul className="grid gap-2 md:grid-cols-2">
          {[...inventory.widgets.values()]
            .filter((widget) => !placed.includes(widget.id))
            .map((widget) => (
              <li key={widget.id} className="card flex items-center gap-3 bg-paper p-3">
                <div className="min-w-0 flex-1">
                  <p className="font-semibold">{widget.name}</p>
                  <p className="text-sm text-ink-2">
                    {best(widget.needs).allowed
                      ? widget.description
                      : `They may not ${inventory.permissions.get(widget.needs)?.name}, so it would not be shown.`}
                  </p>
                </div>
                {!readOnly && (
                  <button
                    type="button"
                    className="btn btn-small"
                    onClick={() =>
                      change({
                        do: 'place-widget',
                        role: role.id,
                        widget: widget.id,
                        column: columns.length - 1,
                        index: 99,
                      })
                    }
                  >
                    <Icon name="plus" size={15} /> Add<span className="sr-only"> {widget.name}</span>
                  </button>
                )}
              </li>
            ))}
        </ul>
        {placed.length === inventory.widgets.size && <p className="text-ink-2">Every widget is on Today.</p>}
      </section>
    </div>
  );
}
