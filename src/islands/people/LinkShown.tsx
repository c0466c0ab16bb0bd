import { useState } from 'react';
import { Icon } from '../kit/Icon';

/** A one-time link, to be handed over: it is shown instead of mailed. */
export function LinkShown({ name, link, until }: { name: string; link: string; until: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div className="grid gap-3" role="status">
      <p>
        Hand this link to {name}. It works once, until {until}. With it they choose their own password; you never learn
        it.
      </p>
      <div className="flex flex-wrap gap-2">
        <input
          readOnly
          aria-label="One-time link"
          className="field flex-1 font-mono text-sm"
          value={link}
          onFocus={(event) => event.currentTarget.select()}
        />
        <button
          type="button"
          className="btn"
          onClick={() =>
            void navigator.clipboard.writeText(link).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          <Icon name={copied ? 'check' : 'copy'} size={16} /> {copied ? 'Copied' : 'Copy'}
        </button>
      </div>
      <p className="text-sm text-ink-2">
        It is shown only now. If it gets lost, make a new one: the old one ends with it.
      </p>
    </div>
  );
}
