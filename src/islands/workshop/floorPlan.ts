import { hierarchy, treemap, treemapSquarify } from 'd3';

export interface RoomBox {
  section: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * Places sections as rooms in a rectangle, in per cent of it; a room's area grows with the tasks in it. A room
 * without tasks counts as half a task, so that its name can be read. Squarified treemap after Bruls, Huizing and
 * van Wijk (2000), by D3.
 */
export function floorPlan(sections: readonly { id: string; tasks: number }[], aspect: number): RoomBox[] {
  const root = hierarchy<{ id: string; tasks: number; children?: readonly { id: string; tasks: number }[] }>({
    id: '',
    tasks: 0,
    children: sections,
  })
    .sum((node) => (node.id === '' ? 0 : Math.max(0.5, node.tasks)))
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
  return treemap<typeof root.data>()
    .tile(treemapSquarify.ratio(1.3))
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
