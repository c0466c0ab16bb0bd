import { Icon } from '../kit/Icon';

/** Where an item lies, and its layout where there are several. */
export function Crumbs({ crumbs, layout }: { crumbs: readonly string[]; layout: string | null }) {
  return (
    <p className="clip flex flex-wrap items-center gap-1.5 text-sm text-ink-2">
      {crumbs.map((crumb, i) => (
        <span key={i} className="flex items-center gap-1.5">
          {i > 0 && <Icon name="right" size={13} />} {crumb}
        </span>
      ))}
      {layout !== null && <span>· layout “{layout}”</span>}
    </p>
  );
}
