import { useRef, useState, useEffect } from 'react';
import { documentOf, mergeContent, piecesOf, type Layout, type PageContent } from '@/core/content';
import { send } from '../kit/send';
import { useSend } from '../kit/useSend';
import type { Finish } from './FinishBar';
import { goToField } from './goToField';
import { useDraft } from './useDraft';
import type { PutIn } from './useWriting';

export type ItemDraft = ReturnType<typeof useDraft>;
type Options = Parameters<typeof useDraft>[0];

/**
 * An item being written: its draft, and what is done with it as a whole. `layoutOf` names the layout its content has.
 */
export function useItem(
  options: Options,
  { one, layoutOf }: { one: string; layoutOf: (content: PageContent) => Layout | undefined },
) {
  const draft = useDraft(options);
  const { item } = options;
  const { change, state } = draft;
  const stateNow = useRef(state);
  stateNow.current = state;
  const action = useSend();
  const [said, setSaid] = useState<string | null>(null);
  /** What happened meanwhile, told where the state is: nothing moves under whoever types. */
  const [news, setNews] = useState<string | null>(null);
  /** How text is put into each writing area from outside, by field, or by field and piece. */
  const areas = useRef(new Map<string, PutIn>());
  /** Whether the two versions of a clash are shown to choose from. */
  const [choosing, setChoosing] = useState(false);

  const putInAreas = (next: PageContent, undoable: boolean) => {
    for (const [key, put] of areas.current) {
      const [field = '', piece] = key.split(' ');
      const text = !(field in next)
        ? undefined
        : piece === undefined
          ? documentOf(next, field)
          : piecesOf(next, field).find((one) => one.id === piece)?.text;
      if (text) put(text, undoable);
    }
  };
  // At once and everywhere: a letter typed in between would write over what came.
  const putIn = (next: PageContent, undoable = true) => {
    putInAreas(next, undoable);
    change(next);
  };
  /**
   * Whether nothing on the screen waits: nothing typed in a trial, which is kept nowhere, and no changed HTML, which was
   * made from the text as it is.
   */
  const isIdle = () =>
    draft.isIdle() && stateNow.current.status !== 'trial' && document.querySelector('[data-html-waits]') === null;
  /** Somebody else kept a version: whoever writes nothing meanwhile sees it. Who writes gets it with their next words. */
  const hear = async (version: number) => {
    if (version <= draft.version() || !isIdle()) return;
    const sent = await send('GET', `/api/items/${item}/content`);
    if (!sent.ok || sent.value.version <= draft.version() || !isIdle()) return;
    if (!draft.takeIn(sent.value.content, sent.value.version, sent.value.faults)) return;
    putInAreas(sent.value.content, false);
    setNews(`Somebody else wrote on this ${one}. Their words are here now.`);
  };
  // What two people changed in different places is put together by itself.
  useEffect(() => {
    const layout = layoutOf(draft.current());
    if (state.status !== 'conflict' || !layout) return;
    const merged = mergeContent(layout, draft.base(), draft.current(), state.theirs);
    // Only the line of state tells of a clash: whoever types goes on typing, and opens it when they will.
    if (merged.clashes.length > 0) return;
    putIn(merged.content, false);
    setNews(`Somebody else changed other parts of this ${one}. Both changes are in it now.`);
    draft.rebase(state.theirs, state.theirVersion);
    void draft.save();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each conflict
  }, [state.status]);

  /** Sends or publishes what is on the screen, and leads to what came of it. */
  const finish = async ({ what, at }: Finish, more: { note: string; askedOf: number | null }) => {
    // What is not right yet waits to be set right; everything else of the page is kept.
    await draft.save();
    await draft.settled();
    const [wrong] = draft.faultsNow();
    if (wrong) {
      goToField(wrong.field);
      return false;
    }
    const sent = await action.act('POST', `/api/items/${item}/${what}`, {
      content: draft.current(),
      version: draft.version(),
      note: more.note,
      ...(at && { at }),
      ...(what === 'send' && { askedOf: more.askedOf }),
    });
    if (!sent) return false;
    if (!sent.ok) {
      if (sent.problem.kind === 'not-signed-in' || sent.problem.kind === 'conflict') draft.fail(sent.problem);
      return false;
    }
    draft.settle();
    if (sent.value.trial)
      setSaid(
        what === 'send'
          ? 'This is a trial: in the real room it would now wait for a second look. Nothing was kept.'
          : 'This is a trial: in the real room visitors would see it now. Nothing was kept.',
      );
    else location.assign(`${location.pathname}?done=${at ? 'planned' : what}`);
    return true;
  };
  const drop = async () => {
    await draft.settled();
    const sent = await action.act('POST', `/api/items/${item}/drop`, { version: draft.version() });
    if (!sent?.ok) return;
    draft.settle();
    if (sent.value.trial) setSaid('This is a trial: the draft is still there.');
    else location.reload();
  };
  /** Keeps what is on the screen among the versions, before something else takes its place. */
  const putAside = async (): Promise<boolean> => {
    const kept = await send('POST', `/api/items/${item}/aside`, { content: draft.current() });
    if (!kept.ok) draft.fail(kept.problem);
    return kept.ok;
  };
  const takeTheirs = async () => {
    setChoosing(false);
    if (!(await putAside())) return;
    draft.settle();
    location.reload();
  };
  const keepChosen = async (chosen: PageContent, version: number, asideMine: boolean) => {
    setChoosing(false);
    if (asideMine && !(await putAside())) return;
    putIn(chosen);
    void draft.save({ version });
  };

  return {
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
  };
}
