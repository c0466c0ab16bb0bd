/** Brings a field of the edit screen into sight, opens what it stands in, and puts the focus into it. */
export function goToField(id: string): void {
  const field = document.querySelector<HTMLElement>(
    `[data-field="${CSS.escape(id)}"], [data-field^="${CSS.escape(id)} "]`,
  );
  if (!field) return;
  for (let at: HTMLElement | null = field; at; at = at.parentElement)
    if (at instanceof HTMLDetailsElement) at.open = true;
  const input = field.querySelector<HTMLElement>('input, select, textarea, [contenteditable="true"], button');
  input?.focus({ preventScroll: true });
  (input ?? field).scrollIntoView({ block: 'center' });
}
