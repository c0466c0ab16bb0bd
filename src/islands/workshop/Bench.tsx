import { type ReactNode, useState, useMemo, useEffect, useRef } from 'react';
import type { PermissionId } from '@/core/inventory';
import { differences } from '@/core/release';
import type { PlanState } from '@/core/wire';
import { sayAge } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Confirm, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { ManyDialog } from '../people/Many';
import { type WorkshopFacts, prepare, holdersOf } from './model';
import { Now } from './Now';
import { type StepId, STEPS } from './steps';
import { usePlan } from './usePlan';
import { usePreparing } from './usePreparing';
import { useInventory } from '../kit/inventory';

export interface PlannerProps {
  site: string;
  initial: PlanState;
  facts: Omit<WorkshopFacts, 'pages'>;
  step: StepId;
  mayEdit: boolean;
  /** Whether they may give people roles. */ mayGive: boolean;
}

export const HEADER =
  'top-0 z-20 flex min-h-[59px] flex-wrap items-center gap-x-5 gap-y-2 border-b border-line bg-sheet px-4 py-2 md:sticky md:px-6';
/** Where one is: the Workshop, and the role that is prepared. */
export const BenchCrumbs = ({ role, children }: { role: string; children?: ReactNode }) => (
  <p className="flex min-w-0 items-center gap-x-3 gap-y-1 text-lg max-md:flex-wrap">
    <a href="/workshop" className="flex items-center gap-2.5 text-ink-2 no-underline hover:text-pine">
      <Icon name="wrench" /> Workshop
    </a>
    <Icon name="right" />
    <span className="clip font-head font-bold">{role}</span>
    {children}
  </p>
);

export function Bench(props: PlannerProps & { facts: WorkshopFacts }) {
  const planned = usePlan(props.initial, props.facts.role);
  return planned.state.plan.roles.some((role) => role.id === props.facts.role) ? (
    <BenchOf {...props} planned={planned} />
  ) : (
    <RoleGone planned={planned} />
  );
}

/** The role was taken back while its room was prepared. */
function RoleGone({ planned: { state, redo, saving, problem } }: { planned: ReturnType<typeof usePlan> }) {
  return (
    <div className="flex min-h-screen flex-col">
      <header className={HEADER}>
        <BenchCrumbs role="A role that is not there" />
      </header>
      <main id="main" className="grid justify-items-start gap-3 px-4 py-5 md:px-6">
        <h1>This role is not there any more</h1>
        <ProblemNote problem={problem} />
        <p>Making it was taken back. Nothing of it was live.</p>
        <p className="flex flex-wrap gap-2">
          <a className="btn btn-main" href="/workshop">
            All roles
          </a>
          {state.redo && (
            <button type="button" className="btn" disabled={saving} onClick={() => redo()}>
              <Icon name="redo" size={16} /> Make it again
            </button>
          )}
        </p>
      </main>
    </div>
  );
}

function BenchOf({
  site,
  facts,
  step: first,
  mayEdit,
  mayGive,
  planned,
}: PlannerProps & { facts: WorkshopFacts; planned: ReturnType<typeof usePlan> }) {
  const inventory = useInventory();
  const { state, change, undo, redo, settled, asking, stopAsking, problem, saving } = planned;
  const header = useRef<HTMLElement>(null);
  // What stands beside begins below the header, however many lines it has.
  useEffect(() => {
    const element = header.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(() =>
      document.documentElement.style.setProperty('--bench-header', `${element.offsetHeight}px`),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const others = usePreparing(facts.role);
  const [step, setStep] = useState<StepId>(first);
  const [personId, setPersonId] = useState<string | null>(null);
  const [focus, setFocus] = useState<PermissionId | null>(null);
  const [warning, setWarning] = useState<string | null>(null);
  const [giving, setGiving] = useState(false);
  const stepping = useSend();
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const { plan } = state;
  const prepared = useMemo(() => prepare(inventory, facts, plan, personId), [inventory, facts, plan, personId]);
  const changes = useMemo(
    () =>
      differences(
        inventory,
        facts.live,
        plan,
        (id) => facts.pages.find((page) => page.id === id)?.title ?? 'a page that is gone',
      ).reduce((sum, role) => sum + role.lines.length, 0),
    [inventory, facts, plan],
  );
  const holders = holdersOf(facts);
  // What a step asks about is asked at the instant the room is shown for.
  const shownFacts = useMemo(() => ({ ...facts, nowMs: prepared.atMs }), [facts, prepared.atMs]);
  const { role, person, figuresNow: figures } = prepared;
  const current = STEPS.find((s) => s.id === step) ?? STEPS[0];

  const show = (next: StepId) => {
    setStep(next);
    setFocus(null);
    setWarning(null);
    // A step opens at its top, however far the one before was read.
    window.scrollTo(0, 0);
  };
  useEffect(() => {
    const back = () => {
      const id = location.pathname.split('/').at(-1);
      if (STEPS.some((s) => s.id === id)) show(id as StepId);
    };
    window.addEventListener('popstate', back);
    return () => window.removeEventListener('popstate', back);
  }, []);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        (event.target.matches('input:not([type=checkbox]):not([type=radio]), textarea, select') ||
          event.target.isContentEditable);
      if (!mayEdit || typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [mayEdit, redo, undo]);

  const stepIn = async () => {
    if (!(await settled())) return;
    const sent = await stepping.act('POST', '/api/workshop/step-in', {
      role: role.id,
      ...(person.id !== '0' && { person: person.id }),
      from: `/workshop/roles/${role.id}/${step}`,
    });
    if (sent?.ok) location.assign(sent.value.to);
  };
  return (
    <div className="flex min-h-screen flex-col">
      <header ref={header} className={HEADER}>
        <BenchCrumbs role={role.name}>
          <span className="pill pill-pine">{holders.length === 1 ? '1 person' : `${holders.length} people`}</span>
          {mayGive && facts.live.roles.some((r) => r.id === role.id && !r.archived) && !role.archived && (
            <button type="button" className="btn btn-small btn-quiet" onClick={() => setGiving(true)}>
              <Icon name="plus" size={15} /> Give it to people
            </button>
          )}
        </BenchCrumbs>
        <div className="flex flex-wrap items-center gap-2 md:ml-auto">
          {mayEdit && (
            <>
              <button
                type="button"
                className="btn btn-small"
                data-anchor="workshop.role.undo"
                disabled={!state.undo}
                title={
                  state.undo
                    ? `${state.undo.words} (${sayAge(new Date(state.undo.at), new Date(), facts.calendar.language)} ago)`
                    : 'Nothing of yours to undo in this role'
                }
                onClick={() => undo()}
              >
                <Icon name="undo" size={16} /> Undo
              </button>
              <button
                type="button"
                className="btn btn-small"
                data-anchor="workshop.role.redo"
                disabled={!state.redo}
                title={state.redo ? state.redo.words : 'Nothing to redo'}
                onClick={() => redo()}
              >
                <Icon name="redo" size={16} /> Redo
              </button>
            </>
          )}
          <span role="status" className={`pill ${changes ? 'pill-sun' : 'pill-plain'}`}>
            {saving
              ? 'Saving…'
              : changes
                ? `${changes} ${changes === 1 ? 'change' : 'changes'} not yet live`
                : 'Same as live'}
          </span>
          {mayEdit && (
            <button
              type="button"
              className="btn"
              data-anchor="workshop.role.stepin"
              disabled={stepping.busy}
              onClick={() => void stepIn()}
            >
              <Icon name="door" />{' '}
              <span className="max-w-[12rem] truncate">
                {person.id === '0' ? 'Step in' : `Step in as ${person.name.split(' ')[0]}`}
              </span>
            </button>
          )}
          {others.map((other) => (
            <span key={other.name} className="pill pill-sky" role="status">
              <Icon name="user" size={13} />{' '}
              <span className="clip">
                {other.name} prepares{' '}
                {other.role === facts.role
                  ? 'this role, too'
                  : other.role === null
                    ? 'the plan, too'
                    : (plan.roles.find((r) => r.id === other.role)?.name ?? 'another role')}
              </span>
            </span>
          ))}
          <a className="btn btn-main" href="/workshop/release" data-anchor="workshop.role.review">
            Review and go live
          </a>
        </div>
      </header>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] content-start md:grid-cols-[minmax(0,1fr)_19rem] md:grid-rows-[auto_1fr] lg:grid-cols-[11.5rem_minmax(0,1fr)_21rem] lg:grid-rows-1">
        <nav
          aria-label="Prepare the room"
          data-anchor="workshop.role.steps"
          className="border-line px-3 py-2 max-lg:border-b md:max-lg:col-span-2 lg:border-r lg:py-5"
        >
          <p className="hint mb-2 px-2 max-lg:hidden">Prepare the room</p>
          <ol className="sticky top-[calc(var(--bench-header,59px)+11px)] grid gap-0.5 max-lg:static max-lg:flex max-lg:flex-wrap">
            {STEPS.map((s, i) => (
              <li key={s.id}>
                <a
                  href={`/workshop/roles/${role.id}/${s.id}`}
                  aria-current={s.id === step ? 'step' : undefined}
                  className={`flex items-center gap-1.5 rounded-[10px] border px-1.5 py-1.5 no-underline md:gap-3 md:px-2 ${s.id === step ? 'border-line bg-sheet font-bold text-ink' : 'border-transparent text-ink-2 hover:bg-pine-wash'}`}
                  onClick={(event) => {
                    if (event.ctrlKey || event.metaKey || event.shiftKey) return;
                    event.preventDefault();
                    history.pushState(null, '', `/workshop/roles/${role.id}/${s.id}`);
                    show(s.id);
                  }}
                >
                  <span
                    className={`flex h-[26px] w-[26px] shrink-0 items-center justify-center rounded-full border text-sm font-bold ${s.id === step ? 'border-pine bg-pine text-white' : 'border-line-2 bg-sheet'}`}
                  >
                    {i + 1}
                  </span>{' '}
                  {s.name}
                </a>
              </li>
            ))}
          </ol>
        </nav>
        <main id="main" data-anchor="workshop.role.work" className="min-w-0 px-4 py-5 md:px-6">
          <h1 className="clip">{current.title(role.name)}</h1>
          <p className="mt-1 mb-4 text-ink-2">{current.says}</p>
          {giving && (
            <ManyDialog
              kind="give"
              role={{ id: role.id, name: role.name, archived: false }}
              everybody={facts.people.map(({ id, name, suspended, assignments }) => ({
                id,
                name,
                detail: [
                  assignments.map((a) => plan.roles.find((r) => r.id === a.role)?.name ?? a.role).join(', ') ||
                    'no role',
                  suspended && 'paused',
                ]
                  .filter(Boolean)
                  .join(', '),
              }))}
              chosen={[]}
              roles={[]}
              onClose={(changed) => {
                setGiving(false);
                if (changed) location.reload();
              }}
            />
          )}
          <Confirm
            open={asking !== null}
            title="Others changed the same since"
            yes="Take all of it back"
            busy={saving}
            onNo={stopAsking}
            onYes={() => {
              stopAsking();
              undo(true);
            }}
          >
            Taking back your last change would take these back, too:{' '}
            {(asking ?? []).map((entry) => `“${entry.words}” by ${entry.by}`).join(', ')}.
          </Confirm>
          <div className="sticky top-[calc(var(--bench-header,59px)+8px)] z-20">
            <ProblemNote problem={problem ?? stepping.problem} />
          </div>
          {!mayEdit && <p className="note mb-4">You can look at this plan but not change it.</p>}
          <current.Work
            facts={shownFacts}
            plan={plan}
            prepared={prepared}
            best={prepared.best}
            change={change}
            setFocus={setFocus}
            setWarning={setWarning}
            stepIn={() => void stepIn()}
            slot={slot}
            readOnly={!mayEdit}
            revision={state.revision}
          />
          {/* On a narrow screen the room now comes below: what a change does to it is told at the edge meanwhile. */}
          <a
            href="#room-now"
            className="sticky bottom-2 z-10 mt-5 flex items-center justify-between gap-3 rounded-[10px] border border-line-2 bg-sheet px-3 py-2 text-ink no-underline shadow-lg md:hidden"
          >
            <span>
              <strong>The room now:</strong> {figures.tasksThatCan} of {figures.tasks} tasks can be done
            </span>
            <Icon name="down" size={16} />
          </a>
        </main>
        <Now
          site={site}
          facts={shownFacts}
          plan={plan}
          prepared={prepared}
          focus={focus}
          warning={warning}
          holders={holders.map(({ id, name, suspended }) => ({ id, name: suspended ? `${name} (paused)` : name }))}
          onPerson={setPersonId}
          change={change}
          readOnly={!mayEdit}
          slot={setSlot}
          hasOwn={step === 'toolbar'}
        />
      </div>
    </div>
  );
}
