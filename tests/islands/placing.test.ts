import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { covered, leastCovering } from '@/islands/tour/placing';

const box = fc.record({
  left: fc.integer({ min: 0, max: 30 }),
  top: fc.integer({ min: 0, max: 30 }),
  width: fc.integer({ min: 0, max: 12 }),
  height: fc.integer({ min: 0, max: 12 }),
  weight: fc.integer({ min: 1, max: 9 }),
});
type Box = { left: number; top: number; width: number; height: number; weight: number };
/** A second, plain program: squares counted one by one. */
function counted(of: Box, by: Box): number {
  let squares = 0;
  for (let x = of.left; x < of.left + of.width; x++)
    for (let y = of.top; y < of.top + of.height; y++)
      if (x >= by.left && x < by.left + by.width && y >= by.top && y < by.top + by.height) squares++;
  return squares;
}

describe('the card of a stop', () => {
  it('is told how much of a control it covers', () => {
    fc.assert(fc.property(box, box, (of, by) => covered(of, by) === counted(of, by)));
  });
  it('stands where it covers least, and where that is equal in the first such place', () => {
    fc.assert(
      fc.property(
        fc.array(box, { minLength: 1, maxLength: 6 }),
        fc.array(box, { maxLength: 6 }),
        box,
        (at, boxes, { width, height }) => {
          const spots = at.map(({ left, top }) => ({ left, top }));
          const costs = spots.map((spot) =>
            boxes.reduce((sum, one) => sum + one.weight * counted(one, { ...spot, width, height, weight: 1 }), 0),
          );
          expect(leastCovering(spots, { width, height }, boxes)).toEqual(spots[costs.indexOf(Math.min(...costs))]);
        },
      ),
    );
  });
});
