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
/** How many places in a row, and how many rows of them, are tried over the whole window. */
const GRID = 9;
const WORKS = 'a[href], button, input, select, textarea, summary, [contenteditable="true"], [role="combobox"]';

export interface CardPlace {
  left: number;
  top: number;
}
interface Box extends CardPlace {
  width: number;
  height: number;
  /** How bad it is to cover it, beside others. */
  weight?: number;
}

/** How much of a box another one covers, in square px. */
export const covered = (of: Box, by: Box): number =>
  Math.max(0, Math.min(of.left + of.width, by.left + by.width) - Math.max(of.left, by.left)) *
  Math.max(0, Math.min(of.top + of.height, by.top + by.height) - Math.max(of.top, by.top));

/** The spot on which a card of this size covers least of the boxes; of equal ones the first. */
export function leastCovering(
  spots: readonly CardPlace[],
  size: { width: number; height: number },
  boxes: readonly Box[],
) {
  const cost = (spot: CardPlace) =>
    boxes.reduce((sum, box) => sum + (box.weight ?? 1) * covered(box, { ...spot, ...size }), 0);
  return spots.reduce<{ spot: CardPlace; cost: number } | null>((best, spot) => {
    const its = cost(spot);
    return best && best.cost <= its ? best : { spot, cost: its };
  }, null)?.spot;
}

/**
 * Where the card of a stop stands: beside the control, in the window, and where it lies over least of what one has to
 * press or fill in next: the control first of all, then the button a form ends with, then what else stands in it or on the screen.
 */
export async function placeCard(control: HTMLElement, card: HTMLElement): Promise<CardPlace | undefined> {
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

  // Where there is no room beside it: anywhere in the window, the nearest first.
  const at = control.getBoundingClientRect();
  const steps = (from: number, to: number) =>
    Array.from({ length: GRID }, (_, n) => from + ((Math.max(from, to) - from) * n) / (GRID - 1));
  const anywhere = steps(EDGE_PX, window.innerWidth - size.width - EDGE_PX)
    .flatMap((left) => steps(EDGE_PX, window.innerHeight - size.height - EDGE_PX).map((top) => ({ left, top })))
    .toSorted((a, b) => Math.hypot(a.left - at.left, a.top - at.top) - Math.hypot(b.left - at.left, b.top - at.top));
  const form = control.closest('form') ?? control.closest('main') ?? document.body;
  const boxes = [control, ...form.querySelectorAll<HTMLElement>(WORKS)]
    .filter((one) => !card.contains(one) && one.checkVisibility())
    .map((one): Box => {
      const { left, top, width, height } = one.getBoundingClientRect();
      // The control itself comes first, then what a form ends with.
      const weight = one === control ? 1000 : one.matches('[type="submit"], .btn-main') ? 100 : 1;
      return { left, top, width, height, weight };
    });
  return leastCovering([...beside.map(({ x, y }) => ({ left: x, top: y })), ...anywhere], size, boxes);
}
