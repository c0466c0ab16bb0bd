import type { ReactNode } from 'react';
import { Icon } from '../../kit/Icon';

/** A few further actions behind one small button. */
export function RoleMenu({ label, children }: { label: string; children: ReactNode }) {
  return (
    <details
      className="relative"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) event.currentTarget.open = false;
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') event.currentTarget.open = false;
      }}
    >
      <summary className="btn btn-small btn-quiet list-none" aria-label={label}>
        More <Icon name="down" size={14} />
      </summary>
      <div className="card absolute top-full right-0 z-20 mt-1 grid w-52 gap-0.5 p-1 shadow-lg [&>button]:rounded-s [&>button]:px-3 [&>button]:py-1.5 [&>button]:text-left [&>button:hover]:bg-pine-soft">
        {children}
      </div>
    </details>
  );
}
