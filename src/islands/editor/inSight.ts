/** How far the line being written stays from what lies over the text, in px. */
const AIR_PX = 14;

/**
 * Calls back when one of the bars over the text grows or shrinks, as the toolbar does when the cursor comes into a
 * table; gives what ends it.
 */
export function onBarsChange(call: () => void): () => void {
  const observer = new ResizeObserver(call);
  for (const bar of document.querySelectorAll('[data-over]')) observer.observe(bar);
  return () => observer.disconnect();
}

/** Height of the bars that lie over the text at one end of the window. */
const heightOf = (side: 'top' | 'bottom'): number =>
  AIR_PX +
  Math.max(
    0,
    ...[...document.querySelectorAll<HTMLElement>(`[data-over="${side}"]`)]
      .filter((bar) => bar.getClientRects().length > 0 && ['sticky', 'fixed'].includes(getComputedStyle(bar).position))
      .map((bar) => bar.offsetHeight),
  );

/**
 * What tells the editor how much of the window is free: the line with the cursor is kept between the toolbar above and
 * the bar below, whose heights are asked for each time, since they grow with the width of the window and with zoom.
 */
export function inSight() {
  const margins = {
    get top() {
      return heightOf('top');
    },
    get bottom() {
      return heightOf('bottom');
    },
    left: AIR_PX,
    right: AIR_PX,
  };
  return { scrollThreshold: margins, scrollMargin: margins };
}
