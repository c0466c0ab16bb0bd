import { useState, type ReactNode } from 'react';
import { Icon } from '../kit/Icon';
import { LockNote, PanelLock, useElement } from './elements';

/** A part of the page beside its fields: shut it says in a line how it stands, open it can be changed. */
export function Panel({
  name,
  value,
  anchor,
  open,
  children,
}: {
  name: string;
  value?: ReactNode;
  anchor: string;
  /** Whether it stands open at first; what happens later neither opens nor shuts it. */
  open?: boolean;
  children: ReactNode;
}) {
  const state = useElement(anchor);
  const [isOpenAtFirst] = useState(open);
  return (
    <details
      className="card group p-0"
      data-anchor={anchor}
      open={state.show === undefined ? isOpenAtFirst : state.show === 'shown'}
    >
      <summary className="flex min-h-[44px] list-none items-center gap-2 rounded-[10px] px-4 py-2 [&::-webkit-details-marker]:hidden">
        <span className="min-w-0 flex-1">
          <span className="font-head block font-semibold">{state.label ?? name}</span>
          {value !== undefined && <span className="clip block text-sm text-ink-2 group-open:hidden">{value}</span>}
        </span>
        <Icon name="down" size={16} className="text-ink-2 group-open:rotate-180" />
      </summary>
      <div className="grid gap-3 border-t border-line px-4 py-3">
        {state.hint && <p className="hint">{state.hint}</p>}
        <LockNote reason={state.lock} />
        {state.lock === undefined ? (
          children
        ) : (
          <PanelLock value={state.lock}>
            <fieldset disabled className="grid gap-3">
              {children}
            </fieldset>
          </PanelLock>
        )}
      </div>
    </details>
  );
}
