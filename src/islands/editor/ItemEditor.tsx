import { Fragment, useEffect, useMemo, useState } from 'react';
import { documentOf, kindOfField, textOf, type Field, type Layout, type PageContent } from '@/core/content';
import { handy } from '@/core/toolbar';
import { dialogLater } from '../kit/later';
import { ProblemNote, Safe } from '../kit/parts';
import { SignInAgain } from '../kit/SignInAgain';
import { useKept } from '../kit/useKept';
import { AboutContext, useAbout } from './about';
import { Crumbs } from './Crumbs';
import { DropDraft } from './DropDraft';
import { EditorNotes } from './EditorNotes';
import { ElementsContext } from './elements';
import { FieldBlock } from './Fields';
import { FinishBar, type Finish } from './FinishBar';
import { goToField } from './goToField';
import type { Wish } from './kept';
import { KeptPanel } from './KeptPanel';
import { panelsBeside } from './panelsBeside';
import { preparedFor } from './prepared';
import type { EditorProps, KindProps } from './props';
import { StateCard } from './StateCard';
import { useChecks } from './useChecks';
import { useItem } from './useItem';
import { usePresence } from './usePresence';

const loadConflictDialog = () => import('./ConflictDialog');
const ConflictDialog = dialogLater(loadConflictDialog);
const AskDialog = dialogLater(() => import('./AskDialog'));

/**
 * Whether a field is filled in with a few words: two of them stand side by side, so that the text begins further up. A
 * title only above pieces, which have headings of their own before the first text.
 */
const isSmall = (field: Field | undefined, layout: Layout | undefined): boolean =>
  field !== undefined &&
  kindOfField(field).large !== true &&
  (field.id !== 'title' || layout?.fields.some(({ kind }) => kind === 'pieces') === true);

/** The blocks of a screen in rows: those that are small together with the next ones that are. */
function sideBySide(ids: readonly string[], small: (id: string) => boolean): string[][] {
  const rows: string[][] = [];
  for (const id of ids) {
    const last = rows.at(-1);
    if (last && small(id) && last.every(small)) last.push(id);
    else rows.push([id]);
  }
  return rows;
}

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

function Screen(props: EditorProps & KindProps) {
  const { item, crumbs, me, may, controls, readOnlyWhy, reviewers, notes, people, theirFields } = props;
  const { screens, fieldPanels, toolbars, allTools, pictures, ownPictures, calendar, now, settings, previewHref } =
    props;
  const layouts = useMemo(() => new Map(props.layouts.map((layout) => [layout.id, layout])), [props.layouts]);
  const { one, partOf } = useAbout();
  const layoutOf = (content: PageContent) =>
    layouts.get(textOf(content, 'page.layout')) ?? (layouts.size === 1 ? [...layouts.values()][0] : undefined);
  const {
    draft,
    action,
    areas,
    putIn,
    said,
    setSaid,
    choosing,
    setChoosing,
    finish,
    drop,
    takeTheirs,
    keepChosen,
    hear,
    news,
  } = useItem(
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
  const [asking, setAsking] = useState<{ field: string; wish: Wish } | null>(null);
  const [newest, setNewest] = useState(notes);
  const [signIn, setSignIn] = useState(false);
  const readOnly = !may.edit;
  const mayChange = (field: string) => !readOnly && (theirFields === null || theirFields.includes(field));
  useEffect(() => {
    // Needed when things go wrong: it must not have to be fetched then.
    void loadConflictDialog().catch(() => undefined);
  }, []);
  const layout = layoutOf(content);
  const findings = useChecks(item.id, content, may.edit && state.status !== 'conflict');
  const others = usePresence(
    item.id,
    state.status === 'typing' || state.status === 'saving',
    (version) => void hear(version),
  );
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
  const { inPanels, firstText, kept, screen, fieldNames, textTools, picturesIn, isPreparedAway } = preparedFor(
    layout,
    content,
    { layouts, settings, screens, toolbars, pictures, ownPictures, fieldPanels },
  );

  const beside = panelsBeside({
    props,
    parts: { page: item.id, layouts, draft, content, change, mayChange, context: { people, me: me.id }, faultOf },
    send: { note, onNote: setNote, askedOf, onAskedOf: setAskedOf, faultOf: action.faultOf },
    inPanels: inPanels.map(({ panel, field }) => ({ panel, field, pictures: picturesIn(field.id) })),
    findings,
    notes: newest,
    onWriteOn: (older, of, version) => {
      draft.goBackTo(version);
      putIn(theirs(older));
      if (note === '') setNote(`Back to the version of ${of}`);
      setSaid(
        `This is ${theirFields === null ? '' : 'your part of '}the version of ${of} again, as your draft. Visitors see it when it is published.`,
      );
    },
  });

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
      <div className="grid flex-1 lg:grid-cols-[minmax(0,1fr)_min(18.5rem,23.2vw)]">
        <div className="flex min-w-0 flex-col">
          <div className="grid flex-1 content-start gap-4 px-4 py-4 md:px-[40px] [&>*]:min-w-0">
            <h1 className="sr-only">{textOf(content, 'title') || `A ${one} without a title`}</h1>
            <Crumbs crumbs={crumbs} layout={layouts.size > 1 ? (layout?.name ?? '') : null} />
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
            {sideBySide(screen.main, (id) =>
              isSmall(
                layout?.fields.find((one) => one.id === id),
                layout,
              ),
            ).map((ids) =>
              ids.length === 1 ? (
                ids.map(block)
              ) : (
                <div
                  key={ids.join(' ')}
                  className="grid items-start gap-4 [&>*]:min-w-0 lg:[html:not([data-letters])_&]:grid-cols-2"
                >
                  {ids.map(block)}
                </div>
              ),
            )}
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
            isTrial={props.isTrial}
            state={state}
            faults={draft.faults}
            news={news}
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
            wasPublic={item.down || item.versions.some(({ live }) => live)}
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
            .filter((id) => !screen.main.includes(id) && !screen.side.includes(id))
            .map((id) => (
              <Fragment key={id}>{beside[partOf(id)]}</Fragment>
            ))}
          {screen.side.map(block)}
          {state.status === 'kept' && !readOnly && <DropDraft busy={action.busy} onDrop={() => void drop()} />}
        </aside>

        {state.status === 'conflict' && choosing && layout && (
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
        )}
        {asking && (
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
        )}
        <SignInAgain
          open={signIn}
          onClose={() => setSignIn(false)}
          onDone={() => {
            setSignIn(false);
            action.clear();
            void draft.save();
          }}
        />
      </div>
    </ElementsContext>
  );
}
