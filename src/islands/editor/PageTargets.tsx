import { useEffect, useState } from 'react';
import type { Target } from '@/core/wire';
import { Icon } from '../kit/Icon';
import { Labelled } from '../kit/parts';
import { send } from '../kit/send';

const AFTER_TYPING_MS = 250;

interface Choosing {
  href: string;
  onChoose: (href: string) => void;
}
type Fetched =
  { status: 'loading' } | { status: 'failed'; why: string } | { status: 'here'; targets?: Target[]; tree?: Target[] };

function useTargets(query: string, waitMs = 0): Fetched {
  const [got, setGot] = useState<Fetched>({ status: 'loading' });
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      () =>
        void send('GET', `/api/pages/targets?${query}`).then(
          (sent) =>
            current &&
            setGot(sent.ok ? { status: 'here', ...sent.value } : { status: 'failed', why: sent.problem.detail }),
        ),
      waitMs,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [query, waitMs]);
  return got;
}

const Waiting = ({ got }: { got: Fetched }) =>
  got.status === 'loading' ? (
    <p role="status" className="px-2">
      Looking…
    </p>
  ) : got.status === 'failed' ? (
    <p role="alert" className="px-2">
      {got.why}
    </p>
  ) : null;

/**
 * Pages of the website to lead to: those changed last first, then all of them as a tree; a search forgives a wrong
 * letter.
 */
export default function PageTargets({ href, onChoose }: Choosing) {
  const [typed, setTyped] = useState('');
  const got = useTargets(`q=${encodeURIComponent(typed.trim())}`, typed ? AFTER_TYPING_MS : 0);
  const { targets, tree } = got.status === 'here' ? got : {};
  return (
    <div className="grid gap-2">
      <Labelled label="Find the page">
        {(ids) => (
          <input
            {...ids}
            type="search"
            className="field"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        )}
      </Labelled>
      {/* As high before they have come: a dialog that grows under the pointer loses its presses. */}
      <div className="h-[min(24rem,42vh)] overflow-y-auto rounded-s border border-line p-1">
        <Waiting got={got} />
        {tree && <h3 className="hint px-2 pt-1">Changed last</h3>}
        {targets && (
          <ul aria-label={tree ? 'Changed last' : 'Pages'}>
            {targets.map((target) => (
              <li key={target.id}>
                <Choice target={target} href={href} onChoose={onChoose} />
              </li>
            ))}
          </ul>
        )}
        {targets?.length === 0 && <p className="px-2 py-1 text-ink-2">No page fits.</p>}
        {tree && (
          <>
            <h3 className="hint mt-2 border-t border-line px-2 pt-2">All pages</h3>
            <Branch name="All pages" targets={tree} href={href} onChoose={onChoose} open />
          </>
        )}
      </div>
    </div>
  );
}

function Choice({ target, href, onChoose }: Choosing & { target: Target }) {
  const { address } = target;
  if (address === null)
    return (
      <span className="clip block px-2 py-1.5 text-ink-2" dir="auto">
        {target.title}
      </span>
    );
  return (
    <button
      type="button"
      aria-pressed={address === href}
      className={`flex w-full flex-wrap items-baseline gap-x-2 rounded-s px-2 py-1.5 text-left hover:bg-pine-wash ${address === href ? 'bg-pine-soft font-semibold' : ''}`}
      onClick={() => onChoose(address)}
    >
      <span className="clip" dir="auto">
        {target.title}
      </span>{' '}
      <span className="clip text-sm font-normal text-ink-2">{address}</span>
    </button>
  );
}

/**
 * Some pages of the tree side by side; what lies below one is fetched when it is opened. `open`: the first of them is.
 */
function Branch({
  name,
  targets,
  open = false,
  ...choosing
}: Choosing & { name: string; targets: readonly Target[]; open?: boolean }) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(
    new Set(open ? targets.slice(0, 1).map((target) => target.id) : []),
  );
  return (
    <ul aria-label={name}>
      {targets.map((target) => {
        const isOpen = opened.has(target.id);
        return (
          <li key={target.id}>
            <div className="flex items-start">
              {target.below ? (
                <button
                  type="button"
                  className="mt-1 flex h-7 w-7 shrink-0 items-center justify-center rounded-s text-ink-2"
                  aria-expanded={isOpen}
                  aria-label={`What lies below ${target.title}`}
                  onClick={() =>
                    setOpened(new Set(isOpen ? [...opened].filter((id) => id !== target.id) : [...opened, target.id]))
                  }
                >
                  <Icon name={isOpen ? 'down' : 'right'} size={16} />
                </button>
              ) : (
                <span className="w-7 shrink-0" />
              )}
              <div className="min-w-0 flex-1">
                <Choice target={target} {...choosing} />
              </div>
            </div>
            {target.below && isOpen && (
              <div className="pl-4">
                <Below target={target} {...choosing} />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function Below({ target, ...choosing }: Choosing & { target: Target }) {
  const got = useTargets(`below=${target.id}`);
  return got.status === 'here' ? (
    <Branch name={`Below ${target.title}`} targets={got.tree ?? []} {...choosing} />
  ) : (
    <Waiting got={got} />
  );
}
