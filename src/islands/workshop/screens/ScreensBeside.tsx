import type { Element, ElementState } from '@/core/screens';
import { Marks } from './Marks';

/** One edit screen as it is under several plans, beside one another. */
export function ScreensBeside({
  elements,
  screens,
}: {
  elements: readonly Element[];
  screens: {
    title: string;
    order: { main: readonly string[]; side: readonly string[] };
    stateOf: (id: string) => ElementState;
  }[];
}) {
  return (
    <details className="rounded-[10px] border border-line bg-sheet px-3 py-2">
      <summary className="link cursor-pointer">As it is in force, beside it</summary>
      <div className="mt-2 grid gap-3 md:grid-cols-2">
        {screens.map(({ title, order, stateOf }) => (
          <section key={title} aria-label={`${title}: the whole screen`}>
            <h3 className="label">{title}</h3>
            <ol className="text-sm">
              {[...order.main, ...order.side].map((id) => {
                const state = stateOf(id);
                const name = elements.find((one) => one.id === id)?.name ?? id;
                return (
                  <li key={id} className={`border-t border-line py-1 ${state.show === 'hidden' ? 'text-ink-2' : ''}`}>
                    <span className={state.show === 'hidden' ? 'line-through' : ''}>{state.label ?? name}</span>
                    <Marks state={state} />
                  </li>
                );
              })}
            </ol>
          </section>
        ))}
      </div>
    </details>
  );
}
