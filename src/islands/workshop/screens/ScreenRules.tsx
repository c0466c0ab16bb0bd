import { Icon } from '../../kit/Icon';

/** What is prepared of edit screens for a role, sentence by sentence; null where nothing can be done away with. */
export function ScreenRules({
  rules,
  onRemove,
}: {
  rules: { id: string; words: string }[];
  onRemove: ((id: string) => void) | null;
}) {
  return (
    <section aria-label="What is prepared">
      <h2 className="mb-1.5 text-base">What is prepared</h2>
      {rules.length === 0 ? (
        <p className="text-ink-2">Nothing yet: every screen is as it is by itself.</p>
      ) : (
        <ul className="divide-y divide-line rounded-[10px] border border-line bg-sheet">
          {rules.map(({ id, words }) => (
            <li key={id} className="flex items-start justify-between gap-3 px-3 py-2">
              <span className="clip">{words}</span>
              {onRemove && (
                <button
                  type="button"
                  className="btn btn-small"
                  aria-label={`Do away with: ${words}`}
                  onClick={() => onRemove(id)}
                >
                  <Icon name="close" size={15} />
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
