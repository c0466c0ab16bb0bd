import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import {
  documentOf,
  isEmptyValue,
  keptElsewhere,
  mergeContent,
  piecesOf,
  SETTINGS,
  textOf,
  type Document,
  type Field,
  type Layout,
  type PageContent,
} from '@/core/content';
import type { Tool, WritingMode } from '@/core/inventory';
import { sayList, sayTime } from '@/core/words';
import { layouts } from '@/office/layouts';
import { Icon } from '../kit/Icon';
import { Confirm, ProblemNote, Said, Safe } from '../kit/parts';
import { send } from '../kit/send';
import { SignInAgain } from '../kit/SignInAgain';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { ChecksPanel } from './ChecksPanel';
import { FieldInput } from './FieldInput';
import { goToField } from './goToField';
import { FinishBar, type Finish } from './FinishBar';
import { KeptPanel } from './KeptPanel';
import { NotesPanel, PreviewLinkPanel, SchedulePanel, type LinkRow, type NoteRow, type PlannedRow } from './MorePanels';
import { BannerPanel } from './panels';
import type { PictureChoice } from './PictureChooser';
import { RemarksPanel, type RemarkRow } from './RemarksPanel';
import { AboutPanel, AddressPanel, NavigationPanel, ResultPanel } from './SettingsPanels';
import { StateCard } from './StateCard';
import { useChecks } from './useChecks';
import { useDraft, type FieldFault } from './useDraft';
import { usePresence } from './usePresence';
import { VersionsPanel, type VersionRow } from './VersionsPanel';
import { VisitorsPanel, type Visitors } from './VisitorsPanel';
import type { PutIn } from './WritingArea';
import { WritingSkeleton } from './WritingSkeleton';

// Fetched when they are needed: the first load of the screen stays small.
const WritingArea = lazy(() => import('./WritingArea'));
const loadConflictDialog = () => import('./ConflictDialog');
const ConflictDialog = lazy(loadConflictDialog);
const Pieces = lazy(() => import('./Pieces'));

export interface PageEditorProps {
  page: {
    id: string;
    top: boolean;
    down: boolean;
    /** With what is not right yet as it was typed. */ content: PageContent;
    faults: FieldFault[];
    address: string;
    draft: {
      version: number;
      updatedAt: string;
      updatedBy: string;
      updatedById: string | null;
      sentBackWord: string | null;
    } | null;
    waiting: {
      id: number;
      sentBy: string;
      sentById: string;
      sentAt: string;
      note: string;
      askedOf: string | null;
    } | null;
    versions: VersionRow[];
    planned: PlannedRow[];
  };
  site: string;
  crumbs: string[];
  me: { id: string };
  may: { edit: boolean; send: boolean; publish: boolean; retire: boolean };
  /** Why it cannot be changed, where it cannot. */
  readOnlyWhy: string | null;
  /** Who may give the second look. */
  reviewers: { id: string; name: string }[];
  noteRequired: boolean;
  /** Left out for who may not change it. */
  visitors: Visitors | null;
  remarks: { review: number; remarks: RemarkRow[] } | null;
  notes: NoteRow[];
  people: { id: string; name: string }[];
  links: LinkRow[];
  /** The fields of the page they may change; null for all. */
  theirFields: string[] | null;
  /** The layouts they may give the page. */
  layoutIds: string[];
  tools: Tool[];
  allTools: Tool[];
  modes: WritingMode[];
  pictures: PictureChoice[];
  timeZone: string;
  now: string;
}

/** Which fields of a page are somebody's to change: named by the shorter list. */
function ofFields(
  all: readonly string[],
  mayChange: (field: string) => boolean,
  nameOf: (field: string) => string,
): string {
  const [yours, others] = [all.filter(mayChange), all.filter((field) => !mayChange(field))].map((fields) =>
    fields.map((field) => `“${nameOf(field)}”`),
  ) as [string[], string[]];
  return yours.length <= others.length
    ? `Yours to change here: ${sayList(yours)}. Everything else is here to be read.`
    : `Everything here is yours to change but ${sayList(others)}.`;
}

/** The edit screen of a page. */
export function PageEditor(props: PageEditorProps) {
  return (
    <Safe>
      <Screen {...props} />
    </Safe>
  );
}

function Screen({
  page,
  site,
  crumbs,
  me,
  may,
  readOnlyWhy,
  reviewers,
  noteRequired,
  visitors,
  remarks,
  notes,
  people,
  links,
  theirFields,
  layoutIds,
  tools,
  allTools,
  modes,
  pictures,
  timeZone,
  now,
}: PageEditorProps) {
  const draft = useDraft({
    page: page.id,
    person: me.id,
    content: page.content,
    version: page.draft?.version ?? 0,
    kept: page.draft?.updatedAt ?? null,
    faults: page.faults,
  });
  const { content, change, state } = draft;
  const action = useSend();
  const [note, setNote, forgetNote] = useKept(`change note ${page.id}`);
  const [askedOf, setAskedOf] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [dropping, setDropping] = useState(false);
  const [signIn, setSignIn] = useState(true);
  /** How text is put into each writing area from outside, by field, or by field and piece. */
  const areas = useRef(new Map<string, PutIn>());
  /** Whether the two versions of a clash are shown to choose from. */
  const [choosing, setChoosing] = useState(false);
  const readOnly = !may.edit;
  const mayChange = (field: string) => !readOnly && (theirFields === null || theirFields.includes(field));
  // The writing area is made in the browser only; a Suspense boundary on the server would need inline scripts.
  const [inBrowser, setInBrowser] = useState(false);
  useEffect(() => {
    setInBrowser(true);
    // Needed when things go wrong: it must not have to be fetched then.
    void loadConflictDialog().catch(() => undefined);
  }, []);
  const layout: Layout | undefined = layouts.get(textOf(content, 'page.layout'));
  const findings = useChecks(page.id, content, may.edit && state.status !== 'conflict');
  const others = usePresence(page.id, state.status === 'typing' || state.status === 'saving');
  const dirty = state.status !== 'untouched';
  const names = {
    picture: (id: string) => pictures.find((p) => p.id === id)?.name ?? 'a picture that is gone',
    person: (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody',
    layout: (id: string) => layouts.get(id)?.name ?? id,
  };

  /** Of a content what is theirs to change: the rest stays as it is. */
  const theirs = (other: PageContent): PageContent =>
    Object.fromEntries(Object.entries(other).filter(([field]) => mayChange(field)));
  // At once and everywhere: a letter typed in between would write over what came.
  const putIn = (next: PageContent, undoable = true) => {
    for (const [key, put] of areas.current) {
      const [field = '', piece] = key.split(' ');
      const text = !(field in next)
        ? undefined
        : piece === undefined
          ? documentOf(next, field)
          : piecesOf(next, field).find((one) => one.id === piece)?.text;
      if (text) put(text, undoable);
    }
    change(next);
  };
  const faultOf = (field: string) =>
    draft.faults.find((fault) => fault.field === field)?.message ?? action.faultOf(field);
  // What two people changed in different places is put together by itself.
  useEffect(() => {
    if (state.status !== 'conflict' || !layout) return;
    const merged = mergeContent(layout, draft.base(), draft.current(), state.theirs);
    if (merged.clashes.length > 0) {
      setChoosing(true);
      return;
    }
    putIn(merged.content, false);
    setSaid('Somebody else changed other parts of this page meanwhile. Both changes are in it now.');
    draft.rebase(state.theirs, state.theirVersion);
    void draft.save();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each conflict
  }, [state.status]);

  const finish = async ({ what, at }: Finish) => {
    // What is not right yet waits to be set right; everything else of the page is kept.
    await draft.save();
    await draft.settled();
    const [wrong] = draft.faultsNow();
    if (wrong) return goToField(wrong.field);
    const sent = await action.act('POST', `/api/items/${page.id}/${what}`, {
      content: draft.current(),
      version: draft.version(),
      note,
      ...(at && { at }),
      ...(what === 'send' && { askedOf: askedOf ? Number(askedOf) : null }),
    });
    if (!sent) return;
    if (!sent.ok) {
      if (sent.problem.code === 'not-signed-in' || sent.problem.code === 'conflict') draft.fail(sent.problem);
      return;
    }
    draft.settle();
    forgetNote();
    if (sent.value.trial)
      setSaid(
        what === 'send'
          ? 'This is a trial: in the real room it would now wait for a second look. Nothing was kept.'
          : 'This is a trial: in the real room visitors would see it now. Nothing was kept.',
      );
    else location.assign(`/room/pages/${page.id}?done=${at ? 'planned' : what}`);
  };
  const drop = async () => {
    setDropping(false);
    await draft.settled();
    const sent = await action.act('POST', `/api/items/${page.id}/drop`, { version: draft.version() });
    if (!sent?.ok) return;
    draft.settle();
    if (sent.value.trial) setSaid('This is a trial: the draft is still there.');
    else location.reload();
  };
  /** Keeps what is on the screen among the versions, before something else takes its place. */
  const putAside = async (): Promise<boolean> => {
    const kept = await send('POST', `/api/items/${page.id}/aside`, { content: draft.current() });
    if (!kept.ok) draft.fail(kept.problem);
    return kept.ok;
  };
  const takeTheirs = async () => {
    if (!(await putAside())) return;
    draft.settle();
    location.reload();
  };
  const keepChosen = async (chosen: PageContent, version: number, asideMine: boolean) => {
    if (asideMine && !(await putAside())) return;
    putIn(chosen);
    void draft.save({ version });
  };

  const area = (
    key: string,
    label: string,
    loaded: Document,
    onChange: (document: Document) => void,
    isTheirs: boolean,
    shared?: { toolbarIn: HTMLElement | null },
  ) => (
    <div key={key} data-field={key}>
      {!inBrowser && <WritingSkeleton />}
      {inBrowser && (
        <Suspense fallback={<WritingSkeleton />}>
          <WritingArea
            label={label}
            loaded={loaded}
            onReady={(put) => {
              areas.current.set(key, put);
              return () => areas.current.delete(key);
            }}
            tools={tools}
            allTools={allTools}
            modes={modes}
            readOnly={!isTheirs}
            pictures={pictures}
            small={shared !== undefined}
            {...shared}
            previewHref={`/room/pages/${page.id}/preview`}
            onChange={onChange}
            onPreview={() => draft.save()}
          />
        </Suspense>
      )}
    </div>
  );
  const fieldOf = (field: Field) => {
    if (field.kind === 'picture') return null;
    if (field.kind === 'rich')
      return (
        <div key={field.id}>
          <p className="label">{field.name}</p>
          {area(
            field.id,
            field.name,
            documentOf(draft.current(), field.id),
            (document) => change({ [field.id]: document }),
            mayChange(field.id),
          )}
        </div>
      );
    if (field.kind === 'pieces')
      return (
        inBrowser && (
          <Suspense key={field.id} fallback={<WritingSkeleton />}>
            <Pieces
              field={field}
              pieces={piecesOf(content, field.id)}
              now={() => piecesOf(draft.current(), field.id)}
              readOnly={!mayChange(field.id)}
              pictures={pictures}
              onChange={(pieces) => change({ [field.id]: pieces })}
              area={(piece, onText, toolbarIn) =>
                area(`${field.id} ${piece.id}`, `Text of “${piece.heading}”`, piece.text, onText, mayChange(field.id), {
                  toolbarIn,
                })
              }
            />
          </Suspense>
        )
      );
    const anchor = field.id === 'title' || field.id === 'summary' ? `pages.edit.${field.id}` : undefined;
    return (
      <FieldInput
        key={field.id}
        field={field}
        value={content[field.id]}
        onChange={(value) => change({ [field.id]: value })}
        readOnly={!mayChange(field.id)}
        context={{ people }}
        fault={faultOf(field.id)}
        big={field.id === 'title'}
        {...(anchor && { anchor })}
      />
    );
  };
  const picture = layout?.fields.find((f) => f.kind === 'picture');
  const kept = layout
    ? keptElsewhere(layouts, layout, content).filter((field) => !isEmptyValue(content[field.id]))
    : [];
  const firstText = layout?.fields.find((field) => field.kind === 'rich');
  const allowed = useMemo(
    () =>
      new Set(
        modes.some((mode) => mode.id === 'code') ? allTools.map((tool) => tool.id) : tools.map((tool) => tool.id),
      ),
    [modes, tools, allTools],
  );
  const fieldNames = new Map([...(layout?.fields ?? []), ...SETTINGS].map((field) => [field.id, field.name]));
  const parts = { page: page.id, content, change, mayChange, context: { people }, faultOf };

  return (
    <div className="grid flex-1 lg:grid-cols-[minmax(0,1fr)_18.5rem]">
      <div className="flex min-w-0 flex-col">
        <div className="grid flex-1 content-start gap-4 px-4 py-4 md:px-10 [&>*]:min-w-0">
          <h1 className="sr-only">{textOf(content, 'title') || 'A page without a title'}</h1>
          <p className="clip flex flex-wrap items-center gap-1.5 text-sm text-ink-2">
            {crumbs.map((crumb, i) => (
              <span key={i} className="flex items-center gap-1.5">
                {i > 0 && <Icon name="right" size={13} />} {crumb}
              </span>
            ))}
            <span>· layout “{layout?.name}”</span>
          </p>
          <div role="status" className="empty:absolute">
            {others.length > 0 && (
              <p className="note flex items-center gap-2">
                <Icon name="users" size={17} />
                <span className="clip">
                  {others
                    .map((other) => `${other.name} ${other.typing ? 'is writing here' : 'has this page open, too'}`)
                    .join('. ')}
                  .
                </span>
              </p>
            )}
          </div>
          <Said words={said} />
          {readOnlyWhy && <p className="note">{readOnlyWhy}</p>}
          {!readOnly && theirFields !== null && (
            <p className="note">{ofFields([...fieldNames.keys()], mayChange, (id) => fieldNames.get(id) ?? id)}</p>
          )}
          {page.draft?.sentBackWord && (
            <div className="note">
              <strong>It came back with a word:</strong> <span className="clip">“{page.draft.sentBackWord}”</span>
            </div>
          )}
          {!readOnly && page.draft && page.draft.updatedById !== me.id && (
            <p className="note">
              You go on with a draft that {page.draft.updatedBy} changed last,{' '}
              {sayTime(new Date(page.draft.updatedAt), timeZone, new Date(now))}.
            </p>
          )}
          {draft.backup && (
            <div
              className="note flex flex-wrap items-center gap-3"
              role="region"
              aria-label="Text kept in this browser"
            >
              <span className="min-w-[14rem] flex-1">
                This browser kept text of yours from {sayTime(new Date(draft.backup.at), timeZone, new Date(now))} that
                never reached the website.
              </span>
              <button
                type="button"
                className="btn btn-small"
                onClick={() => {
                  if (draft.backup) putIn(theirs(draft.backup.content));
                  draft.setBackup(null);
                }}
              >
                Bring it back
              </button>
              <button type="button" className="btn btn-quiet btn-small" onClick={draft.dropBackup}>
                Do without it
              </button>
            </div>
          )}
          {layout?.fields.map(fieldOf)}
          {kept.length > 0 && (
            <KeptPanel
              fields={kept}
              content={content}
              into={firstText?.name ?? null}
              readOnly={readOnly || theirFields !== null}
              onLetGo={(field) => change({ [field.id]: null })}
              allowed={allowed}
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
          may={may}
          readOnly={readOnly}
          busy={action.busy}
          dirty={dirty}
          down={page.down}
          reviewers={reviewers}
          askedOf={askedOf}
          findings={findings ?? []}
          timeZone={timeZone}
          onFinish={(how) => void finish(how)}
        />
      </div>

      <aside
        aria-label="About this page"
        className="grid content-start gap-3 border-t border-line bg-paper p-4 lg:border-t-0 lg:border-l"
      >
        <StateCard
          state={state}
          readOnly={readOnly}
          dirty={dirty}
          live={page.versions.find((v) => v.live)}
          down={page.down}
          waiting={page.waiting}
          mine={page.waiting?.sentById === me.id}
          address={page.address}
          timeZone={timeZone}
          now={now}
          onTryAgain={() => void draft.save()}
        />
        <ProblemNote problem={action.problem} />
        {may.send && (
          <section className="card grid gap-3" data-anchor="pages.edit.note">
            <FieldInput
              field={{
                id: 'note',
                kind: 'long',
                name: 'What did you change?',
                hint: noteRequired
                  ? 'One sentence; this website asks for it.'
                  : 'One sentence for whoever gives the second look.',
                max: 500,
              }}
              value={note}
              onChange={(value) => setNote(typeof value === 'string' ? value : '')}
              readOnly={false}
              context={{ people }}
              fault={action.faultOf('note')}
            />
            {reviewers.length > 1 && (
              <FieldInput
                field={{
                  id: 'askedOf',
                  kind: 'choice',
                  name: 'Who shall look at it?',
                  options: [{ id: '', name: 'Whoever comes first' }, ...reviewers],
                }}
                value={askedOf || null}
                onChange={(value) => setAskedOf(typeof value === 'string' ? value : '')}
                readOnly={false}
                context={{ people }}
                fault={action.faultOf('askedOf')}
              />
            )}
          </section>
        )}
        {remarks && <RemarksPanel review={remarks.review} initial={remarks.remarks} timeZone={timeZone} now={now} />}
        {may.edit && <ChecksPanel findings={findings} />}
        {picture && (
          <BannerPanel
            name={picture.name}
            value={textOf(content, picture.id) || null}
            pictures={pictures}
            readOnly={!mayChange(picture.id)}
            onChange={(id) => change({ [picture.id]: id })}
          />
        )}
        <AddressPanel top={page.top} address={page.address} {...parts} />
        <NavigationPanel {...parts} />
        <ResultPanel address={page.address} site={site} {...parts} />
        <AboutPanel layoutIds={layoutIds} {...parts} />
        {visitors && <VisitorsPanel page={page.id} visitors={visitors} />}
        {may.publish && (
          <SchedulePanel
            page={page.id}
            planned={page.planned}
            mayRetire={may.retire && !page.top}
            mayPublish={may.publish}
            timeZone={timeZone}
            now={now}
          />
        )}
        {may.edit && <NotesPanel page={page.id} initial={notes} timeZone={timeZone} now={now} />}
        {may.edit && (
          <PreviewLinkPanel initial={links} page={page.id} timeZone={timeZone} now={now} before={() => draft.save()} />
        )}
        <VersionsPanel
          page={page.id}
          versions={page.versions}
          timeZone={timeZone}
          now={now}
          onWriteOn={
            may.edit
              ? (older, of) => {
                  putIn(theirs(older));
                  if (note === '') setNote(`Back to the version of ${of}`);
                  setSaid(
                    `This is ${theirFields === null ? '' : 'your part of '}the version of ${of} again, as your draft. Visitors see it when it is published.`,
                  );
                }
              : undefined
          }
        />
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
        onYes={() => void drop()}
        onNo={() => setDropping(false)}
      >
        The page says again what visitors see. The draft is put aside under “Earlier versions”.
      </Confirm>
    </div>
  );
}
