import { hierarchy, treemap, treemapSquarify } from 'd3';

export interface RoomBox {
  section: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** What a room needs for its name, its tasks and its state, in per cent of the width of the house. */
const LEAST = { width: 19, height: 12 };
/** The house is as wide as it is high times this; with more rooms than these it grows in height. */
const ASPECT = 2.1;
const ROOMS = 8;
export const aspectOf = (rooms: number): number => ASPECT * Math.min(1, ROOMS / Math.max(1, rooms));
const GROWS = 1.25;

/**
 * Places sections as rooms in a rectangle, in per cent of it; a room's area grows with the tasks in it. A room with few
 * of them counts as more, as far as is needed for every name to be read: half a task at least, at most as many as the
 * largest has. Squarified treemap after Bruls, Huizing and van Wijk (2000), by D3.
 */
export function floorPlan(sections: readonly { id: string; tasks: number }[], aspect: number): RoomBox[] {
  const most = Math.max(0.5, ...sections.map((section) => section.tasks));
  for (let least = 0.5; ; least = Math.min(most, least * GROWS)) {
    const boxes = placed(sections, aspect, least);
    if (least >= most || boxes.every(({ width, height }) => width >= LEAST.width && height >= LEAST.height * aspect))
      return boxes;
  }
}

function placed(sections: readonly { id: string; tasks: number }[], aspect: number, least: number): RoomBox[] {
  const root = hierarchy<{ id: string; tasks: number; children?: readonly { id: string; tasks: number }[] }>({
    id: '',
    tasks: 0,
    children: sections,
  })
    .sum((node) => (node.id === '' ? 0 : Math.max(least, node.tasks)))
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
  return treemap<typeof root.data>()
    .tile(treemapSquarify.ratio(1))
    .size([100 * aspect, 100])(root)
    .leaves()
    .map((leaf) => ({
      section: leaf.data.id,
      left: leaf.x0 / aspect,
      top: leaf.y0,
      width: (leaf.x1 - leaf.x0) / aspect,
      height: leaf.y1 - leaf.y0,
    }));
}
