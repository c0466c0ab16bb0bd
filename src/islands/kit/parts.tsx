import { AlertDialog, Dialog as RadixDialog } from 'radix-ui';
import { Component, useEffect, useId, useState, type ReactNode } from 'react';
import { Icon, type IconName } from './Icon';
import type { ProblemDetails } from './send';

/** Puts the focus on an element that takes none by itself, a heading for instance. */
export function focusOn(element: HTMLElement | null): void {
  if (element && element.tabIndex < 0) element.tabIndex = -1;
  element?.focus();
}

const MOST_FRAMES = 120;
/**
 * The same with what is drawn only once what was just done has taken effect, however long that takes: looked for when
 * it has, and if it is drawn later still, in each frame until it is there. By its id, or by a way to find it.
 */
export function useFocusLater(): (find: string | (() => HTMLElement | null | undefined)) => void {
  const [wanted, setWanted] = useState<{ find: string | (() => HTMLElement | null | undefined) } | null>(null);
  useEffect(() => {
    if (!wanted) return undefined;
    let [frame, frames] = [0, 0];
    const look = () => {
      const found = typeof wanted.find === 'string' ? document.getElementById(wanted.find) : wanted.find();
      if (found) focusOn(found);
      else if (frames++ < MOST_FRAMES) frame = requestAnimationFrame(look);
    };
    look();
    return () => cancelAnimationFrame(frame);
  }, [wanted]);
  return (find) => setWanted({ find });
}

/**
 * Puts the focus on the first thing to do in a dialog, and when it closes back to where it was; where that is gone, to
 * the main part of the screen. Without a trigger of its own the library would let it drop.
 */
function useFocus(open: boolean) {
  // Taken before anything in the dialog can have the focus.
  const [was, setWas] = useState<{ open: boolean; before: Element | null }>({ open: false, before: null });
  if (open !== was.open) setWas({ open, before: open ? document.activeElement : was.before });
  return {
    onOpenAutoFocus: (event: Event) => {
      const first = (event.currentTarget as HTMLElement).querySelector<HTMLElement>(
        '[data-dialog-body] :is(input, select, textarea, button, a[href], [tabindex="0"]):not(:disabled)',
      );
      if (!first) return;
      event.preventDefault();
      first.focus();
    },
    onCloseAutoFocus: (event: Event) => {
      event.preventDefault();
      if (was.before instanceof HTMLElement && was.before.isConnected && was.before !== document.body)
        was.before.focus();
      else focusOn(document.getElementById('main'));
    },
  };
}

/** A dialog with a title, closed by Escape, its button or a press outside; focus comes back to where it was. */
export function Dialog({
  open,
  onClose,
  title,
  wide,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  wide?: boolean;
  children: ReactNode;
}) {
  const focus = useFocus(open);
  return (
    <RadixDialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-[#1c2b2a]/55" />
        <RadixDialog.Content
          {...focus}
          aria-describedby={undefined}
          className={`card fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[calc(100vw-2rem)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto p-5 ${wide ? 'max-w-3xl' : 'max-w-lg'}`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <RadixDialog.Title className="m-0">{title}</RadixDialog.Title>
            <RadixDialog.Close className="btn btn-quiet btn-small -mt-1 -mr-2">
              <Icon name="close" /> Close
            </RadixDialog.Close>
          </div>
          <div data-tour-slot />
          <div data-dialog-body>{children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

/** Asks before something that matters; the safe answer has the focus. */
export function Confirm({
  open,
  title,
  children,
  yes,
  onYes,
  onNo,
  busy,
}: {
  open: boolean;
  title: string;
  children: ReactNode;
  yes: string;
  onYes: () => void;
  onNo: () => void;
  busy?: boolean;
}) {
  const focus = useFocus(open);
  return (
    <AlertDialog.Root open={open} onOpenChange={(now) => !now && onNo()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-[#1c2b2a]/55" />
        <AlertDialog.Content
          {...focus}
          className="card fixed top-1/2 left-1/2 z-50 w-[calc(100vw-2rem)] max-w-lg -translate-x-1/2 -translate-y-1/2 p-5"
        >
          <AlertDialog.Title className="mb-2">{title}</AlertDialog.Title>
          <div data-tour-slot />
          <AlertDialog.Description asChild>
            <div className="mb-5 text-ink-2">{children}</div>
          </AlertDialog.Description>
          <div className="flex flex-wrap justify-end gap-2">
            <AlertDialog.Cancel className="btn">Cancel</AlertDialog.Cancel>
            <button type="button" className="btn btn-main" disabled={busy} onClick={onYes}>
              {yes}
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

/** A labelled field with its hint and its fault, tied together for screen readers. */
export function Labelled({
  label,
  hint,
  fault,
  children,
  anchor,
  beside = false,
}: {
  label: string;
  /** The label stands beside the input, not above it. */
  beside?: boolean;
  hint?: string | undefined;
  fault?: string | undefined;
  anchor?: string;
  children: (ids: { id: string; 'aria-describedby'?: string; 'aria-invalid'?: true }) => ReactNode;
}) {
  const id = useId();
  const described = [hint && `${id}-hint`, fault && `${id}-fault`].filter(Boolean).join(' ');
  return (
    <div
      data-anchor={anchor}
      className={
        beside
          ? 'grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 [&>p]:col-start-2 [&>p]:text-sm [&>label]:mb-0'
          : undefined
      }
    >
      <label className="label" htmlFor={id}>
        {label}
      </label>
      {children({
        id,
        ...(described && { 'aria-describedby': described }),
        ...(fault && { 'aria-invalid': true as const }),
      })}
      {hint && (
        <p id={`${id}-hint`} className="hint mt-1">
          {hint}
        </p>
      )}
      {fault && (
        <p id={`${id}-fault`} className="mt-1 font-semibold text-brick">
          {fault}
        </p>
      )}
    </div>
  );
}

/** Tells what went wrong, at once also to screen readers. Empty when nothing did. */
export function ProblemNote({ problem, children }: { problem: ProblemDetails | null; children?: ReactNode }) {
  return (
    <div role="alert" className="empty:absolute">
      {problem && (
        <div className="note note-brick clip mb-3">
          <strong>{problem.title}.</strong> {problem.detail}
          {children}
        </div>
      )}
    </div>
  );
}

/** What is said where something was done while a room is tried. */
export const TRIAL = 'This is a trial: in the real room it would be done now. Nothing was kept.';

/** Something done, said once and politely. */
export function Said({ words }: { words: string | null }) {
  return (
    <div role="status" className="empty:absolute">
      {words && <div className="note note-pine clip mb-3">{words}</div>}
    </div>
  );
}

export function Empty({ icon, title, children }: { icon: IconName; title: string; children?: ReactNode }) {
  return (
    <div className="flex flex-col items-center gap-2 px-4 py-10 text-center text-ink-2">
      <Icon name={icon} size={32} />
      <p className="font-head text-lg font-semibold text-ink">{title}</p>
      {children && <div className="max-w-prose">{children}</div>}
    </div>
  );
}

/** Stands around each island: a fault in one leaves the rest of the screen alone. */
export class Safe extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };
  static getDerivedStateFromError() {
    return { failed: true };
  }
  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <div role="alert" className="note note-brick">
        This part of the screen stopped working. What you typed is kept.{' '}
        <button type="button" className="link underline" onClick={() => location.reload()}>
          Load the screen again
        </button>
      </div>
    );
  }
}
