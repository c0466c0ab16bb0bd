import { whatIsDropped } from './paste';

/** The text as HTML. What the schema has no place for is named before it goes. */
export default function CodeView({ code, onCode, onUse }: { code: string; onCode: (html: string) => void; onUse: (html: string) => void }) {
  const dropped = whatIsDropped(code);
  return (
    <div className="grid gap-3">
      <label className="label" htmlFor="code-view">
        The text as HTML
      </label>
      <textarea id="code-view" spellCheck={false} className="field min-h-[18rem] font-mono text-sm" value={code} onChange={(event) => onCode(event.target.value)} />
      <div role="status">{dropped.length > 0 && <p className="note">There is no place for {dropped.join(', ')} in a text; what stands in it is kept as plain text where it can be.</p>}</div>
      <button type="button" className="btn btn-main justify-self-start" onClick={() => onUse(code)}>
        Use this text
      </button>
    </div>
  );
}
