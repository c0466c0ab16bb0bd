import type { Calendar } from '@/core/words';
import type { ListedPage } from '@/core/content';
import { useRef, useState } from 'react';
import type { PageFilter, PageListSetup as Prepared, SavedFilter } from '@/core/lists';
import { Icon } from '../kit/Icon';
import { ProblemNote, Safe, useFocusLater } from '../kit/parts';
import { sendLong, type ProblemDetails } from '../kit/send';
import { BulkBar } from './Bulk';
import type { Choices } from './PageFilters';
import { PageDialogs, type AskedOfPage, type Undo } from './PageDialogs';
import { PagesAsTree } from './PagesAsTree';
import { PageList } from './PageList';
import { RowMenu, type RowAction } from './RowMenu';
import { type DropPlace } from './model';
import { useTree } from './useTree';

export interface PagesProps {
  initial: { pages: ListedPage[]; total: number };
  view: 'tree' | 'list';
  /** What the list begins with. */
  filter: PageFilter;
  /** How the list was prepared for them. */
  prepared: Prepared;
  /** Below which pages somebody may make new ones, if anywhere. */
  may: { create: boolean; retire: boolean; edit: boolean };
  layouts: { id: string; name: string; purpose: string }[];
  choices: Choices;
  saved: SavedFilter[];
  calendar: Calendar;
  now: string;
}

/** Every page somebody may see, as a tree or as a list; making, arranging, taking away, one or many. */
export function PagesScreen(props: PagesProps) {
  return (
    <Safe>
      <Screen {...props} />
    </Safe>
  );
}

function Screen({
  initial,
  view: view0,
  filter: filter0,
  prepared,
  may,
  layouts,
  choices,
  saved,
  calendar,
  now,
}: PagesProps) {
  const tree = useTree(initial);
  const [view, setView] = useState<'tree' | 'list'>(view0);
  const show = (next: 'tree' | 'list') => {
    setView(next);
    // Part of the address: loaded again, or passed on, the screen is the same.
    history.replaceState(null, '', `?view=${next}`);
  };
  const [filter, setFilter] = useState<PageFilter>(filter0);
  const [chosen, setChosen] = useState<ReadonlyMap<string, string> | null>(null);
  const [asking, setAsking] = useState<AskedOfPage>(null);
  const [said, setSaid] = useState<{ words: string; undo: Undo | null } | null>(null);
  /** Counts what was done, so that the list is asked for anew. */
  const [version, setVersion] = useState(0);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  /** How far taking back is. */
  const [back, setBack] = useState<{ done: number; of: number } | null>(null);
  const note = useRef<HTMLDivElement>(null);

  const pageOf = (id: string) => tree.tree.pages.get(id);
  const choose = (page: { id: string; title: string }, on: boolean) =>
    setChosen(
      (old) =>
        new Map(
          on ? [...(old ?? []), [page.id, page.title] as const] : [...(old ?? [])].filter(([id]) => id !== page.id),
        ),
    );
  const move = (id: string, to: DropPlace | null) => {
    const page = pageOf(id);
    if (page && to) setAsking({ what: 'move', page, to });
  };
  const act = (page: ListedPage, action: RowAction) => {
    if (action === 'make') setAsking({ what: 'make', below: page });
    else if (action === 'copy') setAsking({ what: 'copy', page });
    else if (action === 'move') setAsking({ what: 'move', page, to: null });
    else setAsking({ what: 'retire', page, as: action });
  };
  const focusLater = useFocusLater();
  /** What was done is told above the pages as they are afterwards; undo stands beside it. */
  const done = async (words: string, undo: Undo | null, on?: string) => {
    const at = tree.rows.findIndex((row) => row.page.id === on);
    const near =
      on === undefined
        ? []
        : [
            on,
            ...tree.rows
              .slice(0, Math.max(at, 0))
              .map((row) => row.page.id)
              .reverse(),
          ];
    setAsking(null);
    setProblem(null);
    setVersion((n) => n + 1);
    await tree.refresh();
    setSaid({ words, undo });
    // On what it was about, or what stands before its place.
    focusLater(
      () =>
        near.map((id) => document.querySelector<HTMLElement>(`[data-title="${id}"]`)).find((link) => link !== null) ??
        note.current,
    );
  };
  const takeBack = async (undo: Undo) => {
    setBack({ done: 0, of: undo.of ?? 1 });
    const sent = await undo.send((done) => setBack({ done, of: undo.of ?? 1 }));
    setBack(null);
    if (sent.ok) await done(undo.words, null);
    else setProblem(sent.problem);
  };

  return (
    <div>
      <ProblemNote problem={problem} />
      <div role="status">
        {said && (
          <div ref={note} tabIndex={-1} className="note note-pine mb-3 flex flex-wrap items-center gap-3">
            <span className="clip">{said.words}</span>
            {said.undo && (
              <button
                type="button"
                className="btn btn-small"
                disabled={back !== null}
                onClick={() => said.undo && void takeBack(said.undo)}
              >
                <Icon name="undo" size={15} />{' '}
                {back && back.of > 1 ? `Taking back: ${back.done} of ${back.of}` : 'Undo'}
              </button>
            )}
          </div>
        )}
      </div>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <div className="relative min-w-[14rem] flex-1 sm:max-w-md" data-anchor="pages.tree.filter">
          <span className="pointer-events-none absolute top-1/2 left-3 -translate-y-1/2 text-ink-2">
            <Icon name="search" size={17} />
          </span>
          <input
            type="search"
            className="field pl-10"
            aria-label="Find a page by title or words"
            placeholder="Find a page"
            value={view === 'tree' ? tree.typed : filter.q}
            onChange={(event) =>
              view === 'tree' ? tree.setTyped(event.target.value) : setFilter({ ...filter, q: event.target.value })
            }
          />
        </div>
        <div role="group" aria-label="How pages are shown" className="flex">
          {(['tree', 'list'] as const).map((as) => (
            <button
              key={as}
              type="button"
              aria-pressed={view === as}
              data-anchor={as === 'list' ? 'pages.tree.list' : undefined}
              className={`btn rounded-none first:rounded-l-s last:-ml-px last:rounded-r-s ${view === as ? 'bg-pine-soft text-pine-2' : ''}`}
              onClick={() => show(as)}
            >
              <Icon name={as === 'tree' ? 'tree' : 'list'} /> {as === 'tree' ? 'Tree' : 'List'}
            </button>
          ))}
        </div>
        <div className="ml-auto flex flex-wrap gap-2">
          {may.retire && (
            <a className="btn btn-quiet" href="/room/pages/deleted" data-anchor="pages.tree.deleted">
              <Icon name="archive" /> Deleted pages
            </a>
          )}
          {may.edit && (
            <button
              type="button"
              className="btn"
              aria-pressed={chosen !== null}
              data-anchor="pages.tree.choose"
              onClick={() => setChosen(chosen === null ? new Map() : null)}
            >
              <Icon name="check" /> {chosen === null ? 'Choose several' : 'Choose no more'}
            </button>
          )}
          {may.create && (
            <button
              type="button"
              className="btn btn-main"
              data-anchor="pages.tree.make"
              onClick={() => setAsking({ what: 'make', below: null })}
            >
              <Icon name="plus" /> New page
            </button>
          )}
        </div>
      </div>
      {chosen !== null && (
        <BulkBar
          chosen={chosen}
          pages={[...tree.tree.pages.values()]}
          onClear={() => setChosen(new Map())}
          onDone={(words, steps) =>
            void done(
              words,
              steps.length === 0
                ? null
                : {
                    send: (onProgress) => sendLong('/api/pages/take-back', { steps }, onProgress),
                    of: steps.length,
                    words: steps.length === 1 ? 'It is as it was.' : `All ${steps.length} are as they were.`,
                  },
            )
          }
        />
      )}
      {view === 'tree' ? (
        <PagesAsTree
          tree={tree}
          chosen={chosen}
          onChoose={choose}
          onMove={move}
          menu={(page) => <RowMenu page={page} onAction={(action) => act(page, action)} />}
        />
      ) : (
        <PageList
          key={version}
          filter={filter}
          onFilter={setFilter}
          saved={saved}
          prepared={prepared}
          choices={choices}
          chosen={chosen}
          onChoose={choose}
          menu={(page) => <RowMenu page={page} onAction={(action) => act(page, action)} />}
          calendar={calendar}
          now={now}
        />
      )}
      <PageDialogs
        asking={asking}
        pages={[...tree.tree.pages.values()]}
        layouts={layouts}
        onClose={() => setAsking(null)}
        onDone={(words, undo, on) => void done(words, undo, on)}
      />
    </div>
  );
}
