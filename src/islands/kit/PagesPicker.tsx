import type { BranchSpot } from '@/core/plan';
import type { PickedPage } from '@/core/wire';
import { Icon } from './Icon';
import { PagePicker } from './PagePicker';

/** Picks any number of pages, each with what lies below it or alone; none stands for the whole website. */
export function PagesPicker({
  label,
  pages,
  value,
  onChange,
}: {
  label: string;
  pages: readonly PickedPage[];
  value: readonly BranchSpot[];
  onChange: (spots: BranchSpot[]) => void;
}) {
  const nameOf = (id: string) => pages.find((page) => page.id === id)?.title ?? 'a page that is gone';
  return (
    <div className="grid gap-2">
      {/* Begins anew after each choice, so that the next can be typed at once. */}
      <PagePicker
        key={value.map((spot) => spot.branch).join()}
        label={label}
        pages={pages.filter((page) => page.parent === null || !value.some((spot) => spot.branch === page.id))}
        value=""
        whole={value.length === 0 ? 'The whole website' : 'Add a page'}
        onChange={(id) => id !== '' && onChange([...value, { branch: id }])}
      />
      {value.length > 0 && (
        <ul className="flex flex-wrap gap-1.5" aria-label={`${label}: chosen`}>
          {value.map(({ branch: id, only }) => (
            <li
              key={id}
              className="inline-flex max-w-full items-center gap-1 rounded-s border border-line-2 bg-paper px-2 py-0.5 text-sm"
            >
              <span className="clip">{nameOf(id)}</span>
              <button
                type="button"
                className="min-h-6 whitespace-nowrap px-1 text-pine underline"
                aria-label={`${nameOf(id)}: ${only ? 'this page alone; add what lies below it' : 'with all below it; take this page alone'}`}
                onClick={() =>
                  onChange(
                    value.map((spot) => (spot.branch !== id ? spot : { branch: id, ...(!only && { only: true }) })),
                  )
                }
              >
                {only ? 'alone' : 'and below'}
              </button>
              <button
                type="button"
                className="flex h-6 w-6 items-center justify-center rounded-s hover:bg-brick-soft"
                aria-label={`Leave ${nameOf(id)} out`}
                onClick={() => onChange(value.filter((spot) => spot.branch !== id))}
              >
                <Icon name="close" size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
