import type { FieldChange } from '@/core/content';
import { Icon } from '../kit/Icon';

const MARK = {
  added: { icon: 'plus', words: 'Added:', look: 'bg-pine-wash' },
  removed: { icon: 'minus', words: 'Removed:', look: 'bg-brick-soft' },
  changed: { icon: 'draft', words: 'Changed:', look: 'bg-sun-soft/60' },
  moved: { icon: 'next', words: 'Moved here:', look: 'bg-sky-soft' },
} as const;

/**
 * What changed, field by field: added words underlined and marked +, removed words struck through and marked −, moved
 * lines marked with an arrow. With `onRemark` a remark can be made on each line.
 */
export function Changes({
  changes,
  full = false,
  onRemark,
}: {
  changes: FieldChange[];
  full?: boolean;
  onRemark?: (field: string, quote: string) => void;
}) {
  const shown = changes.filter((change) => full || change.changed);
  if (shown.length === 0) return <p className="text-ink-2">Nothing differs.</p>;
  return (
    <div className="grid gap-5">
      {shown.map(({ field, lines, hidden }) => (
        <section key={field.id} aria-label={field.name}>
          <h3 className="label">
            {field.name}
            {hidden && (
              <span className="font-normal">
                {' '}
                (kept from another layout; visitors do not see it while the page has this one)
              </span>
            )}
          </h3>
          <ul className="rounded-[10px] border border-line">
            {lines.map((line, i) => (
              <li
                key={i}
                className={`flex gap-3 border-b border-line px-3 py-2 last:border-b-0 ${line.change === 'same' ? '' : MARK[line.change].look}`}
              >
                <span className="mt-1 w-4 shrink-0 text-ink-2">
                  {line.change !== 'same' && <Icon name={MARK[line.change].icon} size={15} />}
                  {line.change !== 'same' && <span className="sr-only">{MARK[line.change].words}</span>}
                </span>
                <div className="clip min-w-0 flex-1 whitespace-pre-wrap">
                  {(line.kind !== 'Text' || line.change === 'moved') && (
                    <span className="mr-2 text-sm text-ink-2">
                      {line.change === 'moved' ? `${line.kind}, moved here` : line.kind}
                    </span>
                  )}
                  {line.pieces.map((piece, k) =>
                    piece.change === 'added' ? (
                      <ins
                        key={k}
                        className="bg-pine-soft font-semibold decoration-pine decoration-2 underline-offset-3"
                      >
                        {piece.text}
                      </ins>
                    ) : piece.change === 'removed' ? (
                      <del key={k} className="bg-brick-soft text-brick">
                        {piece.text}
                      </del>
                    ) : (
                      <span
                        key={k}
                        className={piece.look ? 'underline decoration-dotted decoration-2 underline-offset-3' : ''}
                      >
                        {piece.text}
                        {piece.look && (
                          <span className="ml-1 inline-block text-sm text-ink-2 no-underline">({piece.look})</span>
                        )}
                      </span>
                    ),
                  )}
                  {line.pieces.every((piece) => piece.text === '') && (
                    <span className="text-ink-2">(an empty line)</span>
                  )}
                </div>
                {onRemark && (
                  <button
                    type="button"
                    className="link min-h-[24px] self-start text-sm"
                    onClick={() =>
                      onRemark(
                        field.id,
                        line.pieces
                          .filter((piece) => piece.change !== 'removed')
                          .map((piece) => piece.text)
                          .join('') || line.pieces.map((piece) => piece.text).join(''),
                      )
                    }
                  >
                    Remark<span className="sr-only"> on this line of {field.name}</span>
                  </button>
                )}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
