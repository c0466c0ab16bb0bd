import { Fragment, lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { documentOf, isEmptyValue, keptElsewhere, textOf, type PageContent } from '@/core/content';
import { handy, pictureSource } from '@/core/toolbar';
import { Icon } from '../kit/Icon';
import { Confirm, ProblemNote, Safe } from '../kit/parts';
import { SignInAgain } from '../kit/SignInAgain';
import { useKept } from '../kit/useKept';
import { AboutContext, useAbout } from './about';
import { ChecksPanel } from './ChecksPanel';
import { EditorNotes } from './EditorNotes';
import { ElementsContext } from './elements';
import { FieldBlock } from './Fields';
import { FinishBar, type Finish } from './FinishBar';
import { goToField } from './goToField';
import type { Wish } from './kept';
import { KeptPanel } from './KeptPanel';
import { NotesPanel } from './NotesPanel';
import { SchedulePanel } from './SchedulePanel';
import { PicturePanel } from './panels';
import type { EditorProps, KindProps, PanelParts } from './props';
import { RemarksPanel } from './RemarksPanel';
import { SendPanel } from './SendPanel';
import { StateCard } from './StateCard';
import { useChecks } from './useChecks';
import { useItem } from './useItem';
import { usePresence } from './usePresence';
import { VersionsPanel } from './VersionsPanel';

const loadConflictDialog = () => import('./ConflictDialog');
const ConflictDialog = lazy(loadConflictDialog);
const AskDialog = lazy(() => import('./AskDialog'));

/** The edit screen of an item: its fields, and beside them what else can be set and done. */
export function ItemEditor(props: EditorProps & KindProps) {
  return (
    <Safe>
      <AboutContext value={props.about}>
        <Screen {...props} />
      </AboutContext>
    </Safe>
  );
}

function Screen({
  item,
  crumbs,
  me,
  may,
  controls,
  readOnlyWhy,
  reviewers,
  noteRequired,
  remarks,
  notes,
  people,
  theirFields,
  screens,
  toolbars,
  allTools,
  pictures,
  ownPictures,
  calendar,
  now,
  layouts,
  settings,
  previewHref,
  panels,
}: EditorProps & KindProps) {
  const { one, partOf } = useAbout();
  const layoutOf = (content: PageContent) =>
    layouts.get(textOf(content, 'page.layout')) ?? (layouts.size === 1 ? [...layouts.values()][0] : undefined);
  const { draft, action, areas, putIn, said, setSaid, choosing, setChoosing, finish, drop, takeTheirs, keepChosen } =
    useItem(
      {
        item: item.id,
        person: me.id,
        content: item.content,
        version: item.draft?.version ?? 0,
        kept: item.draft?.updatedAt ?? null,
        faults: item.faults,
      },
      { one, layoutOf },
    );
  const { content, change, state } = draft;
  const [note, setNote, forgetNote] = useKept(`change note ${item.id}`);
  const [askedOf, setAskedOf] = useState('');
  const [dropping, setDropping] = useState(false);
  const [asking, setAsking] = useState<{ field: string; wish: Wish } | null>(null);
  const [newest, setNewest] = useState(notes);
  const [signIn, setSignIn] = useState(true);
  const readOnly = !may.edit;
  const mayChange = (field: string) => !readOnly && (theirFields === null || theirFields.includes(field));
  useEffect(() => {
    // Needed when things go wrong: it must not have to be fetched then.
    void loadConflictDialog().catch(() => undefined);
  }, []);
  const layout = layoutOf(content);
  const findings = useChecks(item.id, content, may.edit && state.status !== 'conflict');
  const others = usePresence(item.id, state.status === 'typing' || state.status === 'saving');
  const dirty = state.status !== 'untouched';
  const names = {
    picture: (id: string) => pictures.find((p) => p.id === id)?.name ?? 'a picture that is gone',
    person: (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody',
    layout: (id: string) => layouts.get(id)?.name ?? id,
  };
  /** Of a content what is theirs to change: the rest stays as it is. */
  const theirs = (other: PageContent): PageContent =>
    Object.fromEntries(Object.entries(other).filter(([field]) => mayChange(field)));
  const faultOf = (field: string) =>
    draft.faults.find((fault) => fault.field === field)?.message ?? action.faultOf(field);
  const send = async (how: Finish) => {
    if (await finish(how, { note, askedOf: askedOf ? Number(askedOf) : null })) forgetNote();
  };
  const picture = layout?.fields.find((f) => f.kind === 'picture');
  const kept = layout
    ? keptElsewhere(layouts, layout, content).filter((field) => !isEmptyValue(content[field.id]))
    : [];
  const firstText = layout?.fields.find((field) => field.kind === 'rich');
  const textTools = (field: string) => toolbars[layout?.id ?? '']?.[field] ?? { tools: [], keep: {}, groups: [] };
  /** The pictures there are to choose from in a field. */
  const picturesIn = (field: string) => {
    const source = pictureSource(textTools(field).tools);
    return source === 'all'
      ? pictures
      : pictures.filter(({ id, ofPart }) => ownPictures.includes(id) || (source === 'part' && ofPart));
  };
  const screen = screens[layout?.id ?? ''] ?? { elements: {}, main: [], side: [] };
  /** By what they are called here. */
  const fieldNames = new Map(
    [...(layout?.fields ?? []), ...settings].map((field) => [field.id, screen.elements[field.id]?.label ?? field.name]),
  );
  /** What the screen hides or locks tells of itself where it is. */
  const isPreparedAway = (field: string) => {
    const state = screen.elements[field];
    return state?.show === 'hidden' || state?.lock !== undefined;
  };

  const parts: PanelParts = {
    page: item.id,
    draft,
    content,
    change,
    mayChange,
    context: { people, me: me.id },
    faultOf,
  };
  const clock = { calendar, now };
  /** What can stand beside the fields. */
  const beside: Record<string, ReactNode> = {
    note: (
      <SendPanel
        note={note}
        onNote={setNote}
        noteRequired={noteRequired}
        reviewers={reviewers}
        askedOf={askedOf}
        onAskedOf={setAskedOf}
        people={people}
        faultOf={action.faultOf}
      />
    ),
    remarks: remarks && <RemarksPanel review={remarks.review} initial={remarks.remarks} {...clock} />,
    checks: <ChecksPanel findings={findings} />,
    banner: picture && (
      <PicturePanel
        name={picture.name}
        value={textOf(content, picture.id) || null}
        pictures={picturesIn(picture.id)}
        readOnly={!mayChange(picture.id)}
        onChange={(id) => change({ [picture.id]: id })}
      />
    ),
    ...panels?.(parts),
    schedule: <SchedulePanel item={item.id} planned={item.planned} mayRetire={may.retire} {...clock} />,
    notes: <NotesPanel key={newest.length} item={item.id} initial={newest} {...clock} />,
    versions: (
      <VersionsPanel
        item={item.id}
        versions={item.versions}
        {...clock}
        onWriteOn={
          may.edit
            ? (older, of, version) => {
                draft.goBackTo(version);
                putIn(theirs(older));
                if (note === '') setNote(`Back to the version of ${of}`);
                setSaid(
                  `This is ${theirFields === null ? '' : 'your part of '}the version of ${of} again, as your draft. Visitors see it when it is published.`,
                );
              }
            : undefined
        }
      />
    ),
  };

  const blocks = { main: screen.main, side: screen.side };
  /** A field or a panel, whichever has the id, where the screen puts it. */
  const block = (id: string) => {
    const field = layout?.fields.find((one) => one.id === id);
    if (!field) {
      if (!controls.includes(id) || screen.elements[id]?.show === 'hidden') return null;
      return <Fragment key={id}>{beside[partOf(id)]}</Fragment>;
    }
    return (
      <FieldBlock
        key={id}
        field={field}
        draft={draft}
        areas={areas}
        mayChange={mayChange}
        faultOf={faultOf}
        textTools={textTools}
        allTools={allTools}
        picturesIn={picturesIn}
        people={people}
        me={me.id}
        previewHref={previewHref}
        onAsk={controls.some((one) => partOf(one) === 'notes') ? (of, wish) => setAsking({ field: of, wish }) : null}
      />
    );
  };

  return (
    <ElementsContext value={screen.elements}>
      <div className="grid flex-1 lg:grid-cols-[minmax(0,1fr)_18.5rem]">
        <div className="flex min-w-0 flex-col">
          <div className="grid flex-1 content-start gap-4 px-4 py-4 md:px-10 [&>*]:min-w-0">
            <h1 className="sr-only">{textOf(content, 'title') || `A ${one} without a title`}</h1>
            <p className="clip flex flex-wrap items-center gap-1.5 text-sm text-ink-2">
              {crumbs.map((crumb, i) => (
                <span key={i} className="flex items-center gap-1.5">
                  {i > 0 && <Icon name="right" size={13} />} {crumb}
                </span>
              ))}
              {layouts.size > 1 && <span>· layout “{layout?.name}”</span>}
            </p>
            <EditorNotes
              item={item}
              one={one}
              me={me}
              said={said}
              others={others}
              readOnly={readOnly}
              readOnlyWhy={readOnlyWhy}
              theirFields={theirFields}
              fieldNames={new Map([...fieldNames].filter(([id]) => !isPreparedAway(id)))}
              mayChange={mayChange}
              draft={draft}
              onBringBack={() => {
                if (draft.backup) putIn(theirs(draft.backup.content));
                draft.setBackup(null);
              }}
              calendar={calendar}
              now={now}
            />
            {blocks.main.map(block)}
            {kept.length > 0 && (
              <KeptPanel
                fields={kept}
                content={content}
                into={firstText?.name ?? null}
                readOnly={readOnly || theirFields !== null}
                onLetGo={(field) => change({ [field.id]: null })}
                allowed={handy(
                  textTools(firstText?.id ?? '').tools,
                  allTools.map((tool) => tool.id),
                )}
                allTools={allTools}
                names={names}
                pictures={pictures}
                onPutIn={(field, blocks) =>
                  firstText &&
                  putIn({
                    [firstText.id]: {
                      type: 'doc',
                      content: [...documentOf(draft.current(), firstText.id).content, ...blocks],
                    },
                    [field.id]: null,
                  })
                }
              />
            )}
          </div>
          <FinishBar
            state={state}
            faults={draft.faults}
            nameOf={(id) => fieldNames.get(id) ?? 'A field'}
            onField={goToField}
            onChoose={() => setChoosing(true)}
            onSignIn={() => setSignIn(true)}
            onTryAgain={() => void draft.save()}
            controls={controls}
            readOnly={readOnly}
            busy={action.busy}
            dirty={dirty}
            down={item.down}
            reviewers={reviewers}
            askedOf={askedOf}
            findings={findings ?? []}
            timeZone={calendar.timeZone}
            onFinish={(how) => void send(how)}
          />
        </div>

        <aside
          aria-label={`About this ${one}`}
          className="grid content-start gap-3 border-t border-line bg-paper p-4 lg:border-t-0 lg:border-l"
        >
          <StateCard
            state={state}
            readOnly={readOnly}
            dirty={dirty}
            live={item.versions.find((v) => v.live)}
            down={item.down}
            waiting={item.waiting}
            mine={item.waiting?.sentById === me.id}
            address={item.address}
            calendar={calendar}
            now={now}
            onTryAgain={() => void draft.save()}
          />
          <ProblemNote problem={action.problem} />
          {controls
            .filter((id) => !blocks.main.includes(id) && !blocks.side.includes(id))
            .map((id) => (
              <Fragment key={id}>{beside[partOf(id)]}</Fragment>
            ))}
          {blocks.side.map(block)}
          {state.status === 'kept' && !readOnly && (
            <button
              type="button"
              className="btn btn-quiet btn-stop btn-small justify-self-start"
              disabled={action.busy}
              onClick={() => setDropping(true)}
            >
              Drop this draft
            </button>
          )}
        </aside>

        {state.status === 'conflict' && choosing && layout && (
          <Suspense fallback={null}>
            <ConflictDialog
              detail={state.detail}
              layout={layout}
              base={draft.base()}
              mine={content}
              theirs={state.theirs}
              names={names}
              onKeep={(chosen, asideMine) => void keepChosen(chosen, state.theirVersion, asideMine)}
              onTakeTheirs={() => void takeTheirs()}
              onClose={() => setChoosing(false)}
            />
          </Suspense>
        )}
        {asking && (
          <Suspense fallback={null}>
            <AskDialog
              item={item.id}
              {...asking}
              onSent={(all, words) => {
                setAsking(null);
                if (all) setNewest(all);
                setSaid(words);
              }}
              onClose={() => setAsking(null)}
            />
          </Suspense>
        )}
        <SignInAgain
          open={state.status === 'signed-out' && signIn}
          onClose={() => setSignIn(false)}
          onDone={() => {
            setSignIn(true);
            action.clear();
            void draft.save();
          }}
        />
        <Confirm
          open={dropping}
          title="Drop this draft?"
          yes="Drop the draft"
          busy={action.busy}
          onYes={() => {
            setDropping(false);
            void drop();
          }}
          onNo={() => setDropping(false)}
        >
          It says again what visitors see. The draft is put aside under “Earlier versions”.
        </Confirm>
      </div>
    </ElementsContext>
  );
}
