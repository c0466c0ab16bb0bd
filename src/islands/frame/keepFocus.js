// What has the focus may go away, be hidden or be disabled while an answer is waited for: the browser then lets the
// focus fall to the page, and whoever works by keyboard stands at the top again. This takes it up: back to the same
// element once it can be used again, or else to what stands in its place. A screen that puts the focus elsewhere by
// itself is left to do so; who presses beside everything has let go of it.
(() => {
  const FOCUSABLE =
    'a[href], button, input, select, textarea, summary, [tabindex="0"], [contenteditable="true"], [role="tab"]';
  /** In ms: longer than a screen takes to put the focus where it wants it. */
  const A_MOMENT = 250;
  /** How many of them something disabled is waited for. */
  const MOST_MOMENTS = 8;
  /** @type {Element | null} */
  let held = null;
  /** The elements around it, the nearest first, and at which place of each it stood. @type {[Element, number][]} */
  let around = [];
  let wasAway = false;
  let timer = 0;
  let moments = 0;

  /** @param {Element} element */
  const isUsable = (element) =>
    element.isConnected &&
    element.checkVisibility({ visibilityProperty: true }) &&
    !element.matches(':disabled') &&
    element.closest('[inert]') === null;
  /** @param {Element} element */
  const take = (element) => {
    if (element instanceof HTMLElement) element.focus({ preventScroll: true });
    element.scrollIntoView({ block: 'nearest' });
  };
  /** What stands in the place of the one that is gone: the next thing to press, or the last before it. */
  const inPlace = () => {
    for (const [element, at] of around) {
      if (!element.isConnected || !element.checkVisibility() || element === document.body) continue;
      const all = [...element.querySelectorAll(FOCUSABLE)].filter(isUsable);
      /** @param {Element} one */
      const place = (one) => [...element.children].findIndex((child) => child.contains(one));
      const found = all.find((one) => place(one) >= at) ?? all.at(-1);
      if (found) return found;
      if (element.matches('main, section, article, [role=dialog], [role=group], [role=region]')) {
        element.setAttribute('tabindex', '-1');
        return element;
      }
    }
    return document.querySelector('main');
  };
  const settle = () => {
    timer = 0;
    // What cannot be used any more may still count as having it, until the next drawing.
    if (!held || (document.activeElement !== document.body && document.activeElement !== held)) return;
    if (isUsable(held)) {
      if (wasAway && document.activeElement !== held) take(held);
      return;
    }
    // Disabled while an answer is waited for; or for good, as what moves something further up is once it is at the top.
    if (held.matches(':disabled') && held.checkVisibility() && moments++ < MOST_MOMENTS) {
      timer = setTimeout(settle, A_MOMENT);
      return;
    }
    const next = inPlace();
    if (next) take(next);
  };
  const look = () => {
    if (!held) return;
    const isFallen = document.activeElement === document.body;
    // Often, as at every key: what it takes to know whether it is drawn is asked only once the focus fell.
    wasAway ||= isFallen
      ? !isUsable(held)
      : !held.isConnected || held.matches(':disabled') || held.closest('[inert], [hidden]') !== null;
    // The browser lets it fall with the next drawing, which tells nobody.
    if ((isFallen || wasAway) && timer === 0) timer = setTimeout(settle, A_MOMENT);
  };

  addEventListener(
    'focusin',
    ({ target }) => {
      if (!(target instanceof Element)) return;
      [held, wasAway, around, moments] = [target, false, [], 0];
      for (let at = target; at.parentElement; at = at.parentElement)
        around.push([at.parentElement, [...at.parentElement.children].indexOf(at)]);
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
  new MutationObserver(look).observe(document, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ['disabled', 'inert', 'hidden', 'open', 'class', 'style'],
  });
})();
