import {
  DndContext,
  DragOverlay,
  closestCorners,
  useDroppable,
  type DragEndEvent,
  type DragOverEvent,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useState, type CSSProperties, type ReactNode } from 'react';
import { useFocusLater } from './parts';
import { dragWords, useDragSensors } from './drag';
import { Icon } from './Icon';

/** A widget as it is moved about on a board. */
export interface BoardCard {
  id: string;
  name: string;
  column: number;
  /** Stays where it is: it has a lock in place of a handle. */
  locked: boolean;
  /** It is not on Today by itself. */
  faint?: boolean;
}

interface Target {
  column: number;
  index: number;
}

function Card({ card, chosen, children }: { card: BoardCard; chosen: boolean; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, isDragging } = useSortable({
    id: card.id,
    disabled: card.locked,
  });
  return (
    <li
      ref={setNodeRef}
      data-card={card.id}
      className={`card flex min-w-0 items-start gap-2 p-2.5 ${isDragging ? 'opacity-40' : ''} ${card.faint ? 'border-dashed bg-paper' : ''} ${chosen ? 'border-pine ring-1 ring-pine' : ''}`}
    >
      {card.locked ? (
        <span className="flex h-8 w-8 shrink-0 items-center justify-center text-ink-2">
          <Icon name="lock" />
          <span className="sr-only">Stays where it is</span>
        </span>
      ) : (
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          className="flex h-8 w-8 shrink-0 cursor-grab touch-none items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
          aria-label={`Move ${card.name}`}
          data-grip={card.id}
        >
          <Icon name="grip" />
        </button>
      )}
      <div className="min-w-0 flex-1">{children}</div>
    </li>
  );
}

function Column({
  index,
  name,
  cards,
  target,
  nameOf,
  draw,
  chosen,
}: {
  index: number;
  name: string;
  cards: readonly BoardCard[];
  target: Target | null;
  nameOf: (id: string) => string;
  draw: (id: string) => ReactNode;
  chosen: string | null;
}) {
  const { setNodeRef } = useDroppable({ id: `column ${index}` });
  const above = target?.column === index ? cards[target.index - 1] : undefined;
  const place = target?.column === index && (
    <li
      key="place"
      aria-hidden="true"
      className="rounded-[10px] border-2 border-dashed border-pine bg-pine-wash px-3 py-3 text-center text-sm font-semibold text-pine"
    >
      {above ? `here, below “${nameOf(above.id)}”` : 'here, at the top'}
    </li>
  );
  return (
    <section aria-label={name} className="min-w-0 rounded-[10px] border border-dashed border-line-2 p-2.5">
      <h2 className="label px-1">{name}</h2>
      <SortableContext items={cards.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ul ref={setNodeRef} className="grid min-h-[6rem] grid-cols-[minmax(0,1fr)] content-start gap-2">
          {cards.flatMap((card, i) => [
            ...(target?.index === i ? [place] : []),
            <Card key={card.id} card={card} chosen={card.id === chosen}>
              {draw(card.id)}
            </Card>,
          ])}
          {target && target.index >= cards.length && place}
          {cards.length === 0 && !place && <li className="px-1 text-sm text-ink-2">Nothing stands here.</li>}
        </ul>
      </SortableContext>
    </section>
  );
}

/**
 * Widgets in columns, to be moved by pointer, touch and keyboard. `onMove` is told the column and the place among its
 * other cards.
 */
export function BoardEditor({
  columns,
  names = Array.from({ length: columns }, (_, i) => `Column ${i + 1}`),
  widths = `repeat(${columns}, minmax(0, 1fr))`,
  cards,
  draw,
  chosen = null,
  onMove,
}: {
  columns: number;
  /** What the columns are called, and how wide each is, as CSS says it. */
  names?: readonly string[];
  widths?: string;
  /** In their order; of each column from top to bottom. */
  cards: readonly BoardCard[];
  /** What stands on a card. */
  draw: (id: string) => ReactNode;
  /** The card that something beside the board is about. */
  chosen?: string | null;
  onMove: (id: string, to: Target) => void;
}) {
  const sensors = useDragSensors();
  const focusLater = useFocusLater();
  const [dragged, setDragged] = useState<string | null>(null);
  const [target, setTarget] = useState<Target | null>(null);
  const inColumn = (column: number) => cards.filter((card) => card.column === column);
  const nameOf = (id: string) => cards.find((card) => card.id === id)?.name ?? names[Number(id.slice(7))] ?? '';
  /** Where it would stand among the others, the dragged one apart. */
  const targetOf = ({ active, over }: DragOverEvent | DragEndEvent): Target | null => {
    if (!over) return null;
    const [id, onto] = [String(active.id), String(over.id)];
    if (onto.startsWith('column ')) {
      const column = Number(onto.slice(7));
      return { column, index: inColumn(column).filter((card) => card.id !== id).length };
    }
    const [from, there] = [cards.find((card) => card.id === id), cards.find((card) => card.id === onto)];
    if (!there) return null;
    const all = inColumn(there.column);
    const at = all.indexOf(there);
    // Going down in its own column it takes the place behind.
    const isBelow = from?.column === there.column && all.indexOf(from) < at;
    const others = all.filter((card) => card.id !== id);
    return { column: there.column, index: id === onto ? at : others.indexOf(there) + (isBelow ? 1 : 0) };
  };
  const end = () => {
    setDragged(null);
    setTarget(null);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCorners}
      accessibility={dragWords(nameOf)}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragOver={(event) => setTarget(targetOf(event))}
      onDragCancel={end}
      onDragEnd={(event) => {
        const to = targetOf(event);
        end();
        if (!to || event.active.id === event.over?.id) return;
        const id = String(event.active.id);
        onMove(id, to);
        // In another column it is drawn anew, and the focus would fall to the page.
        focusLater(() => document.querySelector<HTMLElement>(`[data-grip="${CSS.escape(id)}"]`));
      }}
    >
      <div
        className="grid grid-cols-[minmax(0,1fr)] gap-3 md:grid-cols-[var(--widths)]"
        style={{ '--widths': widths } as CSSProperties}
      >
        {Array.from({ length: columns }, (_, column) => (
          <Column
            key={column}
            index={column}
            name={names[column] ?? ''}
            cards={inColumn(column)}
            target={target?.column === column ? withDragged(target, inColumn(column), dragged) : null}
            nameOf={nameOf}
            draw={draw}
            chosen={chosen}
          />
        ))}
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <div className="card flex items-center gap-2 border-2 border-sun p-2.5 font-semibold shadow-lg">
            <Icon name="grip" /> {nameOf(dragged)}
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** The same place in a column in which the dragged card is still drawn. */
function withDragged(target: Target, cards: readonly BoardCard[], dragged: string | null): Target {
  const at = cards.findIndex((card) => card.id === dragged);
  return { ...target, index: at >= 0 && at < target.index ? target.index + 1 : target.index };
}
