import { KeyboardSensor, PointerSensor, useSensor, useSensors, type DndContextProps } from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';

/** Dragging by pointer and by keyboard alike. */
export const useDragSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

/** What a screen reader says while something is dragged, in plain words. */
export const dragWords = (nameOf: (id: string) => string): DndContextProps['accessibility'] => ({
  screenReaderInstructions: {
    draggable:
      'Press Space to pick it up, the arrow keys to move it, Space to put it down, Escape to leave it where it was.',
  },
  announcements: {
    onDragStart: ({ active }) => `${nameOf(String(active.id))} is picked up.`,
    onDragOver: ({ active, over }) =>
      over && over.id !== active.id
        ? `${nameOf(String(active.id))} is at the place of ${nameOf(String(over.id))}.`
        : undefined,
    onDragEnd: ({ active }) => `${nameOf(String(active.id))} is put down.`,
    onDragCancel: ({ active }) => `${nameOf(String(active.id))} stays where it was.`,
  },
});
