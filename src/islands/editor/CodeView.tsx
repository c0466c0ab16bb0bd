import { useDeferredValue, useMemo } from 'react';
import { sayList } from '@/core/words';
import { whatIsDropped } from './paste';

/** The text as HTML. What the schema has no place for is named before it goes. */
export default function CodeView({
  code,
  asKept,
  warning,
  onCode,
  onUse,
}: {
  code: string;
  /** The HTML of what would be there of some. */ asKept: (html: string) => string;
  /** Of what using it would take away. */
  warning: string | null;
  onCode: (html: string) => void;
  onUse: (html: string) => void;
}) {
  // Looked at while nothing is typed: a long text takes a while.
  const sought = useDeferredValue(code);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- what would be kept of it depends on nothing else
  const dropped = useMemo(() => whatIsDropped(sought, asKept(sought)), [sought]);
  return (
    <div className="grid gap-3">
      <div role="status" className="empty:absolute">
        {dropped.length > 0 && (
          <p className="note">
            There is no place in a text for {sayList(dropped)}; words that stand in it are kept as plain text where they
            can be.
          </p>
        )}
        {warning && <p className="note mt-3">{warning}</p>}
      </div>
      <label className="sr-only" htmlFor="code-view">
        The text as HTML
      </label>
      <textarea
        id="code-view"
        spellCheck={false}
        className="field min-h-[12rem] font-mono text-sm"
        value={code}
        onChange={(event) => onCode(event.target.value)}
      />
      <button type="button" className="btn btn-main justify-self-start" onClick={() => onUse(code)}>
        Use this text
      </button>
    </div>
  );
}
