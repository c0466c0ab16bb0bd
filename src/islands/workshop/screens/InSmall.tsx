import type { ReactNode } from 'react';
import { kindOfField } from '@/core/content';
import type { Element, ElementState } from '@/core/screens';
import { ElementsContext, LockNote } from '../../editor/elements';
import { FieldInput } from '../../editor/FieldInput';
import { FinishBar } from '../../editor/FinishBar';
import { Icon } from '../../kit/Icon';
import { asButtons, ToolChip } from '../toolbar/ToolChip';
import { useInventory } from '../../kit/inventory';

/** Part of a screen as it is drawn there, smaller, and to be looked at only. */
function Still({ children }: { children: ReactNode }) {
  return (
    <div inert aria-hidden="true" className="mt-1.5 [zoom:0.76] [&_.label]:hidden">
      {children}
    </div>
  );
}

const lines = (widths: readonly string[]) => (
  <span className="grid gap-2 p-3">
    {widths.map((width) => (
      <span key={width} className={`h-2 rounded-full bg-line ${width}`} />
    ))}
  </span>
);

/** What is filled in within an element: nothing of one that is a panel only, or that is not open. */
export function ElementInSmall({
  element: { field, hint },
  state,
  tools,
}: {
  element: Element;
  state: ElementState;
  /** What they write with there; null where they do not write. */
  tools: readonly string[] | null;
}) {
  const inventory = useInventory();
  if (!field || state.show === 'hidden' || state.show === 'closed') return null;
  const said = state.hint ?? hint;
  if (kindOfField(field).texts)
    return (
      <Still>
        {said && <p className="hint mb-1">{said}</p>}
        <LockNote reason={state.lock} />
        <div className="rounded-[10px] border border-line-2 bg-sheet">
          <span className="flex flex-wrap gap-1 border-b border-line p-2">
            {asButtons(inventory, tools ?? []).map((one) => (
              <ToolChip key={one.id} {...one} />
            ))}
            {!tools?.length && <span className="text-ink-2">{tools ? 'Plain words' : 'They only read it'}</span>}
          </span>
          {lines(field.kind === 'rich' ? ['w-full', 'w-11/12', 'w-3/5'] : ['w-2/5', 'w-11/12'])}
        </div>
      </Still>
    );
  if (field.kind === 'picture')
    return (
      <Still>
        {said && <p className="hint mb-1">{said}</p>}
        <LockNote reason={state.lock} />
        <span className="flex h-20 items-center justify-center rounded-[10px] border border-line-2 bg-paper text-ink-2">
          <Icon name="picture" size={28} />
        </span>
      </Still>
    );
  return (
    <Still>
      <ElementsContext value={{ [field.id]: state }}>
        <FieldInput
          field={field}
          value={state.value}
          onChange={() => undefined}
          readOnly={state.lock !== undefined}
          context={{ people: [] }}
          big={field.id === 'title'}
        />
      </ElementsContext>
    </Still>
  );
}

/** The bar below the screen, which is always there, with what they may do. */
export function BarInSmall({ controls, readOnly }: { controls: readonly string[]; readOnly: boolean }) {
  const { timeZone } = useInventory();
  const nothing = () => undefined;
  return (
    <div inert aria-hidden="true" className="[zoom:0.76] [&>div]:!static">
      <FinishBar
        isTrial={false}
        state={{ status: 'untouched' }}
        news={null}
        faults={[]}
        nameOf={() => ''}
        onField={nothing}
        onChoose={nothing}
        onSignIn={nothing}
        onTryAgain={nothing}
        controls={controls}
        readOnly={readOnly}
        busy={false}
        dirty
        down={false}
        wasPublic
        reviewers={[]}
        askedOf=""
        findings={[]}
        timeZone={timeZone}
        onFinish={nothing}
      />
    </div>
  );
}
