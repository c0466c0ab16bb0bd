import { pointerWithin, type Collision, type DragMoveEvent } from '@dnd-kit/core';
import type { Zone } from './model';

/** Which third of a row the pointer is in: before it, inside, after it. */
export function collide(args: Parameters<typeof pointerWithin>[0]): Collision[] {
  return pointerWithin(args).map((hit) => {
    const rect = args.droppableRects.get(hit.id);
    const at = rect && args.pointerCoordinates ? (args.pointerCoordinates.y - rect.top) / rect.height : 0.5;
    return { ...hit, data: { ...hit.data, zone: at < 0.28 ? 'before' : at > 0.72 ? 'after' : 'inside' } };
  });
}
export const zoneOf = (event: Pick<DragMoveEvent, 'collisions'>): Zone =>
  (event.collisions?.[0]?.data?.['zone'] as Zone | undefined) ?? 'inside';
