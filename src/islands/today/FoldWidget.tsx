import { useState } from 'react';
import { Icon } from '../kit/Icon';
import { send } from '../kit/send';

/** Folds a widget to its heading, and opens it again; kept for this person. */
export function FoldWidget({
  entry,
  name,
  body,
  folded,
}: {
  entry: string;
  name: string;
  /** The element that is hidden. */
  body: string;
  folded: boolean;
}) {
  const [isFolded, setFolded] = useState(folded);
  const turn = () => {
    const next = !isFolded;
    setFolded(next);
    const element = document.getElementById(body);
    if (element) element.hidden = next;
    void send('PUT', '/api/own-today', { do: 'collapse', entry, on: next });
  };
  return (
    <button
      type="button"
      className="flex h-7 w-7 items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
      aria-expanded={!isFolded}
      aria-controls={body}
      aria-label={name}
      title={isFolded ? 'Open' : 'Fold'}
      onClick={turn}
    >
      <Icon name={isFolded ? 'plus' : 'minus'} size={16} />
    </button>
  );
}
