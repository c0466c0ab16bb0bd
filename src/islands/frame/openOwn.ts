const EVENT = 'safe-room-own';
/** What the menu behind one's name opens, by the control. */
export const OWN = ['frame.password', 'frame.preferences'] as const;
export type OwnDialog = (typeof OWN)[number];

/** Opens what the menu behind one's name holds, from wherever on the screen; whether the control is one of those. */
export function openOwn(control: string): boolean {
  const own = OWN.find((one) => one === control);
  if (own) window.dispatchEvent(new CustomEvent(EVENT, { detail: own }));
  return own !== undefined;
}

export function onOpenOwn(open: (own: OwnDialog) => void): () => void {
  const listen = (event: Event) => open((event as CustomEvent<OwnDialog>).detail);
  window.addEventListener(EVENT, listen);
  return () => window.removeEventListener(EVENT, listen);
}
