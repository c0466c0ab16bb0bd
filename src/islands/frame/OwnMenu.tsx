import { useEffect, useState } from 'react';
import type { Favourite } from '@/core/own';
import { Icon } from '../kit/Icon';
import { useSend } from '../kit/useSend';

/** Keeps this screen among one's favourites in the menu or takes it out, and sets the menu close or roomy. */
export function OwnMenuTools({
  here,
  kept,
  narrow,
}: {
  /** What this screen would be as a favourite; null where it is none. */
  here: Favourite | null;
  kept: boolean;
  narrow: boolean;
}) {
  const { act, busy, problem } = useSend();
  const change = async (body: Parameters<typeof act<'PUT', '/api/own-menu'>>[2]) => {
    const sent = await act('PUT', '/api/own-menu', body);
    // The menu is drawn by the server.
    if (sent?.ok) location.reload();
  };
  const button = 'flex h-8 min-w-8 items-center justify-center gap-1 rounded-s px-1.5 text-ink-2 hover:bg-pine-soft';
  return (
    <span className="flex items-center gap-0.5">
      {here && (
        <button
          type="button"
          className={`${button} ${kept ? 'text-pine' : ''}`}
          aria-pressed={kept}
          disabled={busy}
          title={kept ? 'Take out of my menu' : 'Keep in my menu'}
          onClick={() => void change(kept ? { do: 'drop', to: here.to } : { do: 'keep', favourite: here })}
        >
          <Icon name="star" size={16} filled={kept} />
          <span className="sr-only">{kept ? 'Take out of my menu' : 'Keep in my menu'}</span>
        </button>
      )}
      <button
        type="button"
        className={button}
        aria-pressed={narrow}
        disabled={busy}
        title={narrow ? 'Roomy menu' : 'Narrow menu'}
        onClick={() => void change({ do: 'narrow', on: !narrow })}
      >
        <Icon name={narrow ? 'unfold' : 'fold'} size={16} />
        <span className="sr-only">Narrow menu</span>
      </button>
      {problem && (
        <span role="alert" className="text-sm text-brick">
          {problem.detail}
        </span>
      )}
    </span>
  );
}

/** Keeps something among one's favourites in the menu, or takes it out again. */
export function FavouriteButton({ favourite, kept }: { favourite: Favourite; kept: boolean }) {
  const { act, busy } = useSend();
  const [isKept, setKept] = useState(kept);
  const words = isKept ? 'Take out of my menu' : 'Keep in my menu';
  return (
    <button
      type="button"
      className={`flex h-8 w-8 items-center justify-center rounded-s hover:bg-pine-soft ${isKept ? 'text-pine' : 'text-ink-2'}`}
      aria-pressed={isKept}
      disabled={busy}
      title={words}
      onClick={() =>
        void act('PUT', '/api/own-menu', isKept ? { do: 'drop', to: favourite.to } : { do: 'keep', favourite }).then(
          (sent) => sent?.ok && setKept(!isKept),
        )
      }
    >
      <Icon name="star" size={16} filled={isKept} />
      <span className="sr-only">Keep in my menu: {favourite.name}</span>
    </button>
  );
}

/** Says once which favourites are no longer theirs to open; with that they go. */
export function FavouritesGone({ gone }: { gone: Favourite[] }) {
  const { act } = useSend();
  const [isShown, setShown] = useState(true);
  useEffect(() => {
    void (async () => {
      for (const { to } of gone) await act('PUT', '/api/own-menu', { do: 'drop', to });
    })();
    // Once, for what was told.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  if (!isShown) return null;
  return (
    <div className="note mx-4 mt-4 flex flex-wrap items-center justify-between gap-3 md:mx-7" role="status">
      <p className="clip min-w-0 flex-1">
        {gone.length === 1 ? 'A favourite is' : 'Some favourites are'} gone from your menu, because you can no longer
        open {gone.length === 1 ? 'it' : 'them'}: {gone.map(({ name }) => `“${name}”`).join(', ')}.
      </p>
      <button type="button" className="btn btn-small" onClick={() => setShown(false)}>
        I have read this
      </button>
    </div>
  );
}
