import { computePosition, flip, offset, shift, type Placement } from '@floating-ui/dom';

/** Where a card can stand beside what it points at, the nicest first. */
const PLACEMENTS: readonly Placement[] = [
  'bottom-start',
  'top-start',
  'right-start',
  'left-start',
  'bottom-end',
  'top-end',
  'right-end',
  'left-end',
];
const EDGE_PX = 12;
const WORKS = 'a[href], button, input, select, textarea, summary, [contenteditable="true"], [role="combobox"]';

export interface Spot {
  left: number;
  top: number;
}
interface Box extends Spot {
  width: number;
  height: number;
}

/** How much of a box another one covers, in square px. */
export const covered = (of: Box, by: Box): number =>
  Math.max(0, Math.min(of.left + of.width, by.left + by.width) - Math.max(of.left, by.left)) *
  Math.max(0, Math.min(of.top + of.height, by.top + by.height) - Math.max(of.top, by.top));

/** The spot on which a card of this size covers least of the boxes; of equal ones the first. */
export function leastCovering(spots: readonly Spot[], size: { width: number; height: number }, boxes: readonly Box[]) {
  const cost = (spot: Spot) => boxes.reduce((sum, box) => sum + covered(box, { ...spot, ...size }), 0);
  return spots.reduce<{ spot: Spot; cost: number } | null>((best, spot) => {
    const its = cost(spot);
    return best && best.cost <= its ? best : { spot, cost: its };
  }, null)?.spot;
}

/**
 * Where the card of a stop stands: beside the control, in the window, and where it lies over least of what one has to
 * press or fill in next: the control first of all, then what else stands in the same form or part of the screen.
 */
export async function placeCard(control: HTMLElement, card: HTMLElement): Promise<Spot | undefined> {
  const beside = await Promise.all(
    PLACEMENTS.map((placement) =>
      computePosition(control, card, {
        strategy: 'fixed',
        placement,
        middleware: [offset(16), flip(), shift({ padding: EDGE_PX, crossAxis: true })],
      }),
    ),
  );
  const size = { width: card.offsetWidth, height: card.offsetHeight };
  const [right, bottom] = [window.innerWidth - size.width - EDGE_PX, window.innerHeight - size.height - EDGE_PX];
  // Where there is no room beside it: the corners of the window.
  const corners = [
    { left: right, top: bottom },
    { left: EDGE_PX, top: bottom },
    { left: right, top: EDGE_PX },
    { left: EDGE_PX, top: EDGE_PX },
  ];
  const form = control.closest('form') ?? control.closest('main') ?? document.body;
  const boxes = [control, ...form.querySelectorAll<HTMLElement>(WORKS)]
    .filter((one) => !card.contains(one) && one.checkVisibility())
    .map((one) => one.getBoundingClientRect());
  return leastCovering([...beside.map(({ x, y }) => ({ left: x, top: y })), ...corners], size, boxes);
}
