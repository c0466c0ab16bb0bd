import { useEffect, useState } from 'react';
import type { Favourite } from '@/core/own';
import { Icon } from '../kit/Icon';
import { useSend } from '../kit/useSend';

/** A favourite that leads somewhere. */
interface Shown extends Favourite {
  href: string;
}

/**
 * The end of the menu: shortcuts and one's own favourites, this screen kept among them or taken out, and the menu set
 * close or roomy. In force at once: whatever is being written on the screen goes on.
 */
export function OwnMenuTools({
  shortcuts,
  favourites,
  here,
  narrow,
}: {
  shortcuts: { name: string; href: string; outside: boolean }[];
  favourites: Shown[];
  /** What this screen would be as a favourite; null where it is none. */
  here: Favourite | null;
  narrow: boolean;
}) {
  const { act, busy, problem } = useSend();
  const [mine, setMine] = useState(favourites);
  const [isNarrow, setNarrow] = useState(narrow);
  const kept = here !== null && mine.some(({ to }) => to === here.to);
  const keep = async () => {
    if (!here) return;
    const sent = await act(
      'PUT',
      '/api/own-menu',
      kept ? { do: 'drop', to: here.to } : { do: 'keep', favourite: here },
    );
    if (!sent?.ok) return;
    const rest = mine.filter(({ to }) => to !== here.to);
    setMine(kept ? rest : [...rest, { ...here, href: location.pathname + location.search }]);
  };
  const fold = async () => {
    const sent = await act('PUT', '/api/own-menu', { do: 'narrow', on: !isNarrow });
    if (!sent?.ok) return;
    setNarrow(!isNarrow);
    document.querySelector('nav[aria-label="Menu"]')?.classList.toggle('narrow', !isNarrow);
  };
  const button = 'flex h-8 min-w-8 items-center justify-center gap-1 rounded-s px-1.5 text-ink-2 hover:bg-pine-soft';
  return (
    <>
      {shortcuts.length + mine.length > 0 && (
        <span className="flex items-end gap-1 md:ml-2 md:flex-wrap" role="group" aria-label="Shortcuts and favourites">
          {shortcuts.map((one) => (
            <a
              key={one.href}
              className="door"
              href={one.href}
              {...(one.outside && { target: '_blank', rel: 'noreferrer' })}
            >
              <Icon name={one.outside ? 'out' : 'next'} size={16} />
              <span className="clip">{one.name}</span>
            </a>
          ))}
          {mine.map((one) => (
            <a key={one.to} className="door" href={one.href}>
              <Icon name="star" size={16} /> <span className="clip">{one.name}</span>
              <span className="text-sm font-normal text-ink-2">my own</span>
            </a>
          ))}
        </span>
      )}
      <span className="ml-auto flex items-center gap-0.5 self-center">
        {here && (
          <button
            type="button"
            className={`${button} ${kept ? 'text-pine' : ''}`}
            aria-pressed={kept}
            disabled={busy}
            title={kept ? 'Take out of my menu' : 'Keep in my menu'}
            onClick={() => void keep()}
          >
            <Icon name="star" size={16} filled={kept} />
            <span className="sr-only">{kept ? 'Take out of my menu' : 'Keep in my menu'}</span>
          </button>
        )}
        <button
          type="button"
          className={button}
          aria-pressed={isNarrow}
          disabled={busy}
          title={isNarrow ? 'Roomy menu' : 'Narrow menu'}
          onClick={() => void fold()}
        >
          <Icon name={isNarrow ? 'unfold' : 'fold'} size={16} />
          <span className="sr-only">Narrow menu</span>
        </button>
        {problem && (
          <span role="alert" className="text-sm text-brick">
            {problem.detail}
          </span>
        )}
      </span>
    </>
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
