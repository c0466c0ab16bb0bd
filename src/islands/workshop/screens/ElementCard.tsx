import type { Element, ElementState } from '@/core/screens';
import { ElementInSmall } from './InSmall';
import { Marks } from './Marks';

/** An element as its screen draws it, with what lies in it; each name opens what can be said of it. */
export function ElementCard({
  element,
  inside,
  stateOf,
  toolsOf,
  chosen,
  onOpen,
}: {
  element: Element;
  inside: readonly Element[];
  stateOf: (id: string) => ElementState;
  /** What they write with in one; null where they do not write. */
  toolsOf: (element: Element) => readonly string[] | null;
  chosen: string | null;
  onOpen: (id: string) => void;
}) {
  const state = stateOf(element.id);
  const name = (one: Element, of: ElementState, className: string) => (
    <button
      type="button"
      className={`clip text-left hover:text-pine ${className} ${of.show === 'hidden' ? 'text-ink-2 line-through' : ''}`}
      aria-pressed={chosen === one.id}
      onClick={() => onOpen(one.id)}
    >
      {of.label ?? one.name}
    </button>
  );
  return (
    <>
      {name(element, state, 'w-full font-semibold')}
      <Marks state={state} />
      <ElementInSmall element={element} state={state} tools={toolsOf(element)} />
      {inside.length > 0 && (
        <ul className="mt-1.5 grid gap-1 border-l-2 border-line pl-2 text-sm">
          {inside.map((field) => {
            const of = stateOf(field.id);
            return (
              <li key={field.id}>
                {name(field, of, 'min-h-6')}
                {of.show !== 'hidden' && <Marks state={of.lock === state.lock ? { ...of, lock: undefined } : of} />}
                {state.show === 'shown' && <ElementInSmall element={field} state={of} tools={null} />}
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}
