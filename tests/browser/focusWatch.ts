import type { BrowserContext } from '@playwright/test';

/**
 * Watches every screen of a context for a focus that falls to the page: what had it went away, was disabled or let go,
 * and nothing else has it a moment later, though nobody pressed beside everything and no answer is waited for. Whoever
 * works by keyboard stands at the top again then. `tell` gets what had the focus, and where.
 */
export async function watchFocus(context: BrowserContext, tell: (words: string) => void): Promise<void> {
  await context.exposeBinding('focusFell', ({ page }, held: string) =>
    tell(`the focus fell to the page from ${held} on ${new URL(page.url()).pathname}`),
  );
  await context.addInitScript(() => {
    if (window !== top) return;
    const TICK_MS = 100;
    const TICKS = 8;
    const TICKS_DISABLED = 60;
    const FOCUSABLE = 'a[href], button, input, select, textarea, summary, iframe, [tabindex], [contenteditable=true]';
    let held: Element | null = null;
    let isLeaving = false;
    let answersDue = 0;
    let ticks = 0;
    addEventListener('beforeunload', () => (isLeaving = true));
    const asked = window.fetch.bind(window);
    window.fetch = async (...given) => {
      answersDue++;
      try {
        return await asked(...given);
      } finally {
        answersDue--;
      }
    };
    addEventListener(
      'focusin',
      ({ target }) => {
        held = target instanceof Element ? target : null;
        ticks = 0;
      },
      true,
    );
    addEventListener(
      'pointerdown',
      ({ target }) => {
        if (target instanceof Element && !target.closest(`${FOCUSABLE}, label`)) held = null;
      },
      true,
    );
    setInterval(() => {
      const isFallen = held !== null && (document.activeElement ?? document.body) === document.body;
      ticks = isFallen && !isLeaving && answersDue === 0 ? ticks + 1 : 0;
      // What is disabled for a while may be waited for.
      if (!held || ticks < (held.isConnected && held.matches(':disabled') ? TICKS_DISABLED : TICKS)) return;
      const { tagName, textContent } = held;
      const name = held.getAttribute('aria-label') ?? textContent.trim().slice(0, 60);
      const around = held.closest('[role=dialog], [role=alertdialog], section, form, [data-anchor]');
      const where = around?.getAttribute('aria-label') ?? around?.getAttribute('data-anchor') ?? '';
      (window as unknown as { focusFell: (words: string) => void }).focusFell(
        `${tagName.toLowerCase()} “${name}”${where && ` in “${where}”`}`,
      );
      held = null;
    }, TICK_MS);
  });
}
