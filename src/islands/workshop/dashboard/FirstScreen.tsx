import { useRef, useState } from 'react';
import type { Board } from '@/core/dashboard';
import { entryName } from '@/core/plan';
import { useInventory } from '../../kit/inventory';

/** Screens it is measured on: a usual one on a desk, a usual one in a hand. */
const SCREENS = [
  { name: 'On a desk', width: 1280, height: 800, shownWidth: 400 },
  { name: 'In a hand', width: 390, height: 844, shownWidth: 195 },
] as const;
type Screen = (typeof SCREENS)[number];

/** What somebody sees without scrolling, by name. */
interface Fold {
  above: string[];
  cut: string[];
  below: { id: string; name: string }[];
}

const list = (names: readonly string[]) => names.map((name) => `“${name}”`).join(', ');

/** Where each task and widget of the drawn Today lies, against the lower edge of the window. */
function measure(drawn: Document, height: number, nameOf: (id: string) => string): Fold {
  const fold: Fold = { above: [], cut: [], below: [] };
  for (const element of drawn.querySelectorAll<HTMLElement>('[data-task], [data-entry]')) {
    const { top, bottom } = element.getBoundingClientRect();
    const id = element.dataset['entry'] ?? '';
    const name = id ? nameOf(id) : (element.querySelector('h2')?.textContent ?? '').trim();
    if (bottom <= height) fold.above.push(name);
    else if (top < height) fold.cut.push(name);
    else fold.below.push({ id, name });
  }
  return fold;
}

function Measured({ screen, src, board }: { screen: Screen; src: string; board: Board }) {
  const inventory = useInventory();
  const frame = useRef<HTMLIFrameElement>(null);
  const [fold, setFold] = useState<Fold | null>(null);
  const shownWidth = Math.min(screen.shownWidth, innerWidth - 32);
  const scale = shownWidth / screen.width;
  const nameOf = (id: string) => {
    const entry = board.widgets.find((one) => one.id === id);
    return entry ? entryName(inventory, entry) : id;
  };
  const look = () => {
    const drawn = frame.current?.contentDocument;
    if (!drawn?.body) return;
    setFold(measure(drawn, screen.height, nameOf));
  };
  const buried = (fold?.below ?? []).filter(({ id }) =>
    board.widgets.some((entry) => entry.id === id && entry.hold === 'fixed'),
  );
  return (
    <figure className="min-w-0">
      <figcaption className="label">
        {screen.name}, {screen.width} × {screen.height}
      </figcaption>
      <div
        className="overflow-hidden rounded-[10px] border border-line-2 bg-sheet"
        style={{ width: shownWidth, height: screen.height * scale }}
      >
        <iframe
          ref={frame}
          key={src}
          src={src}
          title={`Today, ${screen.name.toLowerCase()}`}
          tabIndex={-1}
          scrolling="no"
          loading="lazy"
          onLoad={look}
          className="origin-top-left border-0"
          style={{ width: screen.width, height: screen.height, transform: `scale(${scale})` }}
        />
      </div>
      <div className="mt-2 grid gap-1 text-sm" role="status" style={{ maxWidth: Math.max(shownWidth, 220) }}>
        {fold === null ? (
          <p className="text-ink-2">Measuring…</p>
        ) : (
          <>
            {buried.length > 0 && (
              <p className="note note-brick clip">
                {list(buried.map(({ name }) => name))} {buried.length === 1 ? 'has' : 'have'} to stay, but{' '}
                {buried.length === 1 ? 'is' : 'are'} not seen without scrolling.
              </p>
            )}
            <p className="clip">
              <strong>Seen at once:</strong> {fold.above.length ? list(fold.above) : 'nothing'}
            </p>
            {fold.cut.length > 0 && (
              <p className="clip">
                <strong>Cut off:</strong> {list(fold.cut)}
              </p>
            )}
            <p className="clip">
              <strong>Below the edge:</strong>{' '}
              {fold.below.length ? list(fold.below.map(({ name }) => name)) : 'nothing'}
            </p>
          </>
        )}
      </div>
    </figure>
  );
}

/** The real Today, as prepared, on two screens, with what is seen of it without scrolling. */
export function FirstScreen({
  role,
  person,
  board,
  revision,
}: {
  role: string;
  /** Whose it is; null for the role alone. */
  person: string | null;
  board: Board;
  revision: number;
}) {
  const asked = new URLSearchParams({ ...(person && { person }), revision: String(revision) });
  return (
    <section aria-label="The first screen" className="grid gap-2">
      <h2 className="text-base">What they see without scrolling</h2>
      <p className="text-sm text-ink-2">
        The real Today of {person ? 'the person chosen on the right' : 'this role alone'}, as prepared.
      </p>
      <div className="flex flex-wrap items-start gap-5">
        {SCREENS.map((screen) => (
          <Measured key={screen.width} screen={screen} src={`/workshop/today/${role}?${asked}`} board={board} />
        ))}
      </div>
    </section>
  );
}
