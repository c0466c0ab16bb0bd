import { useCallback, useEffect, useRef, useState } from 'react';
import { sameContent, type PageContent } from '@/core/content';
import { useUnsent } from '../kit/leaving';
import { newKey, send, type ProblemDetails } from '../kit/send';
import { findBackup, keepBackup, type Backup, type DraftState } from './model';

const AFTER_TYPING_MS = 1200;
/** Who never pauses is kept all the same: the longest that something typed waits to be sent. */
const LONGEST_MS = 4000;
const RETRY_MS = 4000;

/** Faults of fields that are not right yet; they are kept as typed all the same. */
export interface FieldFault {
  field: string;
  message: string;
}
interface Options {
  item: string;
  person: string;
  content: PageContent;
  version: number;
  kept: string | null;
  faults: FieldFault[];
}

/**
 * Keeps a draft while it is typed: in the browser at once, on the server a moment later, again when the network or the
 * session comes back, field by field: one that is not right yet is kept as typed and marked. Never over newer work: a
 * conflict waits for the editor to choose.
 */
export function useDraft({
  item,
  person,
  content: initial,
  version: initialVersion,
  kept,
  faults: initialFaults,
}: Options) {
  const [content, setContent] = useState(initial);
  const [state, setState] = useState<DraftState>(kept ? { status: 'kept', at: kept } : { status: 'untouched' });
  const [faults, setFaults] = useState<readonly FieldFault[]>(initialFaults);
  const [backup, setBackup] = useState<Backup | null>(null);
  const now = useRef({
    content: initial,
    saved: initial,
    version: initialVersion,
    busy: false,
    since: null as number | null,
    flight: Promise.resolve(true),
    key: newKey(),
    unanswered: null as PageContent | null,
    from: undefined as number | undefined,
  });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const again = useRef<(over?: { version: number }) => Promise<boolean>>(() => Promise.resolve(false));

  useEffect(() => {
    const found = findBackup(person, item);
    if (found && !sameContent(found.content, initial)) setBackup(found);
    else if (found) keepBackup(person, item, null);
    return () => clearTimeout(timer.current);
  }, [initial, item, person]);

  const fail = useCallback((problem: ProblemDetails) => {
    if (problem.faults) setFaults(problem.faults.map(({ field, message }) => ({ field, message })));
    if (problem.kind === 'not-signed-in') return setState({ status: 'signed-out' });
    if (problem.kind === 'conflict') {
      const theirs = problem['theirs'] as { content: PageContent; draft: { version: number } | null };
      return setState({
        status: 'conflict',
        detail: problem.detail,
        theirs: theirs.content,
        theirVersion: theirs.draft?.version ?? 0,
      });
    }
    if (problem.status === 0 || problem.status >= 500) return setState({ status: 'offline', detail: problem.detail });
    return setState({ status: 'refused', detail: problem.detail });
  }, []);

  const faultsNow = useRef(faults);
  faultsNow.current = faults;

  const put = useCallback(
    async (over?: { version: number }): Promise<boolean> => {
      const at = now.current;
      at.busy = true;
      at.since = null;
      setState({ status: 'saving' });
      // What was sent and never answered goes first and unchanged, under the same key: it may have arrived.
      const sending = at.unanswered ?? at.content;
      const sent = await send(
        'PUT',
        `/api/items/${item}/draft`,
        { content: sending, version: over?.version ?? at.version, ...(over && { over: true }), from: at.from },
        at.key,
      );
      at.busy = false;
      if (!sent.ok && (sent.problem.status === 0 || sent.problem.status >= 500)) {
        at.unanswered = sending;
        fail(sent.problem);
        timer.current = setTimeout(() => void again.current(over), RETRY_MS);
        return false;
      }
      at.unanswered = null;
      at.key = newKey();
      if (!sent.ok) {
        fail(sent.problem);
        return false;
      }
      at.saved = sending;
      if (sameContent(at.content, sending)) at.from = undefined;
      setFaults(sent.value.faults);
      faultsNow.current = sent.value.faults;
      if (sent.value.trial) {
        setState({ status: 'trial' });
        return true;
      }
      at.version = sent.value.version;
      // Kept is said only when nothing was typed meanwhile.
      if (sameContent(at.content, sending)) {
        setState({ status: 'kept', at: sent.value.updatedAt });
        keepBackup(person, item, null);
      } else {
        setState({ status: 'typing' });
        at.since = Date.now();
        timer.current = setTimeout(() => void again.current(), AFTER_TYPING_MS);
      }
      return true;
    },
    [fail, item, person],
  );

  /** Keeps what is on the screen now; where a save is under way, when that one has ended. */
  const save = useCallback(
    (over?: { version: number }): Promise<boolean> => {
      clearTimeout(timer.current);
      const at = now.current;
      if (at.busy) return at.flight;
      if (!over && sameContent(at.content, at.saved)) return Promise.resolve(true);
      at.flight = put(over);
      return at.flight;
    },
    [put],
  );
  again.current = save;

  const change = useCallback(
    (part: PageContent) => {
      const at = now.current;
      const next = { ...at.content, ...part };
      if (sameContent(next, at.content)) return;
      at.content = next;
      setContent(next);
      keepBackup(person, item, { content: next, version: at.version, at: new Date().toISOString() });
      setState((old) =>
        old.status === 'conflict' || old.status === 'signed-out' || old.status === 'saving'
          ? old
          : { status: 'typing' },
      );
      clearTimeout(timer.current);
      // Typed while a save is under way: that save looks again when it ends.
      if (at.busy) return;
      at.since ??= Date.now();
      timer.current = setTimeout(
        () => void save(),
        Math.max(0, Math.min(AFTER_TYPING_MS, at.since + LONGEST_MS - Date.now())),
      );
    },
    [item, person, save],
  );

  const isUnsent = () => !sameContent(now.current.content, now.current.saved);
  useUnsent({
    isThere: isUnsent,
    // Where it cannot be kept it is still in the browser: one may go, and is asked before.
    settle: async () => {
      await save();
      if (isUnsent()) await save();
      return true;
    },
  });

  /** What is on the screen holds another version of the draft now, and goes on from it. */
  const rebase = useCallback((onto: PageContent, version: number) => {
    now.current.saved = onto;
    now.current.version = version;
  }, []);
  const isIdle = () => !now.current.busy && sameContent(now.current.content, now.current.saved);
  /** What somebody else kept takes the place of what is on the screen; not where anything of one's own waits. */
  const takeIn = (theirs: PageContent, version: number, wrong: readonly FieldFault[]): boolean => {
    if (!isIdle()) return false;
    now.current = { ...now.current, content: theirs, saved: theirs, version };
    setContent(theirs);
    setFaults(wrong);
    faultsNow.current = wrong;
    setState({ status: 'kept', at: new Date().toISOString() });
    return true;
  };
  const settle = useCallback(() => {
    now.current.saved = now.current.content;
    keepBackup(person, item, null);
  }, [item, person]);
  /** Waits for a save under way, so that what follows is made on the newest version. */
  const settled = useCallback(async () => {
    clearTimeout(timer.current);
    await now.current.flight;
  }, []);
  /** What is on the screen comes from a version of the item; told with the next save. */
  const goBackTo = useCallback((version: number) => {
    now.current.from = version;
  }, []);
  const dropBackup = useCallback(() => {
    keepBackup(person, item, null);
    setBackup(null);
  }, [item, person]);
  return {
    content,
    change,
    state,
    faults,
    fail,
    save,
    rebase,
    isIdle,
    takeIn,
    goBackTo,
    settle,
    settled,
    backup,
    dropBackup,
    setBackup,
    faultsNow: () => faultsNow.current,
    version: () => now.current.version,
    base: () => now.current.saved,
    current: () => now.current.content,
  };
}
