import type { PermissionId } from '@/core/inventory';
import { arranged, asPrepared, cellsOf, type Own } from '@/core/dashboard';
import { entryName, type Plan } from '@/core/plan';
import { Icon, sectionIcon } from '../kit/Icon';
import { namesOf, stopsInWords, type Prepared, type WorkshopFacts } from './model';
import type { Change } from './usePlan';
import { Why } from './Why';
import { useInventory } from '../kit/inventory';

function Miniature({ site, prepared, own }: { site: string; prepared: Prepared; own: Own }) {
  const inventory = useInventory();
  const { now } = prepared;
  const cards = now.tasks.filter((task) => task.verdict.can && task.section !== 'frame');
  return (
    <div
      aria-label="Miniature of the room"
      role="group"
      className="rounded-[10px] border border-line-2 bg-paper p-2.5 text-[11px] leading-tight"
    >
      <p className="clip font-head text-[12px] font-bold">{site}</p>
      <ul className="mt-2 flex flex-wrap gap-1" aria-label="Doors">
        {[
          { section: 'today', name: 'Today', icon: 'house', state: 'open', group: null },
          ...now.menu.doors.map((door) => ({ ...door, group: null })),
          ...now.menu.groups.flatMap((group) =>
            group.doors.map((door, i) => ({ ...door, group: i === 0 ? group.name : null })),
          ),
        ].map((door) => (
          <li
            key={door.section}
            className="flex max-w-full items-center gap-1 rounded-t-[5px] border border-b-0 border-line bg-sheet px-1.5 py-1 font-semibold"
          >
            {door.group !== null && <span className="clip font-normal text-ink-2">{door.group}:</span>}
            <Icon name={sectionIcon(door.icon)} size={11} />
            <span className="clip">{door.name}</span>
            {door.state === 'look' && <Icon name="eye" size={11} />}
            {door.state === 'look' && <span className="sr-only">look only</span>}
          </li>
        ))}
      </ul>
      <div className="border-t border-line bg-sheet p-1.5">
        <ul className="grid grid-cols-3 gap-1" aria-label="Task cards">
          {cards.map((task) => (
            <li key={task.task} className="clip rounded-[4px] border border-line bg-paper px-1.5 py-1.5">
              {task.name}
            </li>
          ))}
        </ul>
        {cards.length === 0 && <p className="p-1 text-ink-2">No task can be done yet.</p>}
        <div
          className="mt-1.5 grid gap-1"
          style={{ gridTemplateColumns: `repeat(${now.dashboard.columns}, minmax(0, 1fr))` }}
        >
          {cellsOf(now.dashboard.columns, arranged(now.dashboard, own).shown).map((cell) => (
            <ul
              key={cell.widgets.map(({ id }) => id).join()}
              className="grid min-w-0 content-start gap-1"
              aria-label="Widgets"
              style={{
                gridColumn: `${cell.column + 1} / span ${cell.span}`,
                gridRow: `${cell.row + 1} / span ${cell.rows}`,
              }}
            >
              {cell.widgets.map((entry) => (
                <li key={entry.id} className="clip rounded-[4px] border border-line px-1.5 py-1.5 text-ink-2">
                  {entryName(inventory, entry)}
                </li>
              ))}
            </ul>
          ))}
        </div>
      </div>
    </div>
  );
}

/** As many stops as are named. */
const FEW_STOPS = 3;

function Figure({
  now,
  before,
  of,
  words,
  bad,
}: {
  now: number;
  before: number;
  of?: number;
  words: string;
  bad?: boolean;
}) {
  return (
    <li className="rounded-s border border-line bg-sheet px-3 py-1.5">
      <p className="font-head text-xl font-bold">
        <span className={bad ? 'text-brick' : ''}>
          {now}
          {of !== undefined && `/${of}`}
        </span>
        {before !== now && (
          <del className="ml-2 text-sm font-normal text-ink-2">
            <span className="sr-only">in force: </span>
            {before}
          </del>
        )}
      </p>
      <p className="text-sm leading-tight text-ink-2">{words}</p>
    </li>
  );
}

/** The room now: what the editor will get, in figures before and after, with warnings and the answer to "why?". */
export function Now({
  site,
  facts,
  plan,
  prepared,
  focus,
  warning,
  onPerson,
  holders,
  change,
  readOnly,
  slot,
  hasOwn,
}: {
  /** Where the step shows what it is about. */
  slot: (element: HTMLElement | null) => void;
  /** The step has something of its own to show, in place of the miniature. */
  hasOwn: boolean;
  site: string;
  facts: WorkshopFacts;
  plan: Plan;
  prepared: Prepared;
  focus: PermissionId | null;
  warning: string | null;
  onPerson: (id: string) => void;
  holders: { id: string; name: string }[];
  change: Change;
  readOnly: boolean;
}) {
  const inventory = useInventory();
  const { figuresNow: f, figuresBefore: b, loss, person, now } = prepared;
  const names = namesOf(inventory, facts, plan);
  const blocked = now.tasks.filter((task) => !task.verdict.can);
  return (
    <aside
      id="room-now"
      aria-label="The room now"
      data-anchor="workshop.role.now"
      className="border-line bg-sheet max-md:border-t md:border-l"
    >
      <div
        tabIndex={0}
        role="group"
        aria-label="The room now, in short"
        className="grid content-start gap-3 p-4 focus-visible:outline-offset-[-3px] md:sticky md:top-[var(--bench-header,59px)] md:max-h-[calc(100vh-var(--bench-header,59px))] md:overflow-y-auto"
      >
        <div className="flex items-baseline justify-between gap-3">
          <h2>The room now</h2>
          {holders.length > 0 ? (
            <label className="text-sm text-ink-2">
              <span className="sr-only">The room as seen by </span>
              <select
                className="field inline-block w-auto max-w-[10rem] px-1.5 py-0.5 text-sm"
                value={person.id}
                onChange={(event) => onPerson(event.target.value)}
              >
                <option value="0">this role alone</option>
                {holders.map((holder) => (
                  <option key={holder.id} value={holder.id}>
                    {holder.name}
                  </option>
                ))}
              </select>
            </label>
          ) : (
            <span className="clip text-sm text-ink-2">nobody holds this role yet</span>
          )}
        </div>
        {prepared.told && <p className="note clip text-sm">{prepared.told}</p>}
        {person.id !== '0' && now.roles.length > 1 && (
          <p className="clip text-sm text-ink-2">
            With all they hold: {now.roles.map((role) => role.name).join(', ')}.
          </p>
        )}
        {facts.own[person.id] && (
          <p className="clip text-sm text-ink-2">Today is shown as {person.name} arranged it.</p>
        )}
        {focus && (
          <Why
            facts={facts}
            plan={plan}
            prepared={prepared}
            permission={focus}
            names={names}
            change={change}
            readOnly={readOnly}
          />
        )}
        <div ref={slot} className="empty:hidden" />
        {!hasOwn && <Miniature site={site} prepared={prepared} own={facts.own[person.id] ?? asPrepared()} />}
        <ul className="grid grid-cols-2 gap-2" aria-label="Figures, before and after">
          <Figure now={f.choices} before={b.choices} words="things to choose from at first" />
          <Figure
            now={f.tasksThatCan}
            before={b.tasksThatCan}
            of={f.tasks}
            words="tasks can be done"
            bad={f.tasksThatCan < f.tasks}
          />
          <Figure
            now={f.idleDoors.length}
            before={b.idleDoors.length}
            words={f.idleDoors.length === 1 ? 'door no task needs' : 'doors no task needs'}
          />
          <Figure
            now={f.staleStops.length}
            before={b.staleStops.length}
            words={f.staleStops.length === 1 ? 'tour stop that points at nothing' : 'tour stops that point at nothing'}
            bad={f.staleStops.length > 0}
          />
        </ul>
        <div role="status" className="grid gap-2 empty:hidden">
          {warning && <p className="note clip">{warning}</p>}
          {loss.tasks.length > 0 && (
            <p className="note note-brick clip">
              <strong>Blocked since the plan in force:</strong> {loss.tasks.map((t) => `“${t}”`).join(', ')}.
            </p>
          )}
          {!warning && loss.tasks.length === 0 && blocked.length > 0 && (
            <p className="note clip">
              <strong>Cannot be done yet:</strong> {blocked.map((t) => `“${t.name}”`).join(', ')}.
            </p>
          )}
          {f.staleStops.length > 0 && (
            <p className="note clip">
              <strong>Tours point at nothing:</strong> {stopsInWords(f.staleStops.slice(0, FEW_STOPS))}
              {f.staleStops.length > FEW_STOPS && `, and ${f.staleStops.length - FEW_STOPS} more`}. They are mended
              under “Tours”.
            </p>
          )}
          {f.idleDoors.length > 0 && (
            <p className="text-sm text-ink-2">
              No task goes through {f.idleDoors.map((d) => `“${d}”`).join(', ')}. You could put it away.
            </p>
          )}
        </div>
      </div>
    </aside>
  );
}
