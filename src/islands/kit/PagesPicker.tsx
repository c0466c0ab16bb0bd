import { Icon } from './Icon';
import { PagePicker, type PickedPage } from './PagePicker';

/** Picks any number of pages; none stands for the whole website. */
export function PagesPicker({ label, pages, value, onChange }: { label: string; pages: readonly PickedPage[]; value: readonly string[]; onChange: (ids: string[]) => void }) {
  const nameOf = (id: string) => pages.find((page) => page.id === id)?.title ?? 'a page that is gone';
  return (
    <div className="grid gap-2">
      {/* Begins anew after each choice, so that the next can be typed at once. */}
      <PagePicker key={value.join()} label={label} pages={pages.filter((page) => page.parent === null || !value.includes(page.id))} value="" whole={value.length === 0 ? 'The whole website' : 'Add a page'} onChange={(id) => id !== '' && onChange([...value, id])} />
      {value.length > 0 && (
        <ul className="flex flex-wrap gap-1.5" aria-label={`${label}: chosen`}>
          {value.map((id) => (
            <li key={id} className="inline-flex max-w-full items-center gap-1 rounded-s border border-line-2 bg-paper px-2 py-0.5 text-sm">
              <span className="clip">{nameOf(id)} and below</span>
              <button type="button" className="flex h-6 w-6 items-center justify-center rounded-s hover:bg-brick-soft" aria-label={`Leave ${nameOf(id)} out`} onClick={() => onChange(value.filter((one) => one !== id))}>
                <Icon name="close" size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
