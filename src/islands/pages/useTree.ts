import type { PageInTree } from '@/core/content';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { send } from '../kit/send';
import { matching, rowsOf, treeOf, withBranch, type KnownTree } from './model';

const AFTER_TYPING_MS = 250;

/** The tree's state: which branches are open and fetched, and what is searched for. */
export function useTree<P extends PageInTree>(initial: { pages: P[] }) {
  const [tree, setTree] = useState<KnownTree<P>>(() => treeOf(initial.pages));
  const [shut, setShut] = useState<ReadonlySet<string>>(new Set());
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [loading, setLoading] = useState<ReadonlySet<string>>(new Set());
  const [failed, setFailed] = useState<string | null>(null);
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<P[] | null>(null);
  const asked = useRef(0);

  // What was typed is looked for on the server: it knows the texts too, and forgives a wrong letter.
  useEffect(() => {
    const q = typed.trim();
    const turn = ++asked.current;
    if (q === '') {
      setFound(null);
      return undefined;
    }
    const timer = setTimeout(() => {
      void send('GET', `/api/pages/tree?q=${encodeURIComponent(q)}`).then((sent) => {
        if (turn !== asked.current) return;
        if (sent.ok) setFound(sent.value.pages as PageInTree[] as P[]);
        setFailed(sent.ok ? null : sent.problem.detail);
      });
    }, AFTER_TYPING_MS);
    return () => clearTimeout(timer);
  }, [typed]);

  const fetchBranch = useCallback(async (id: string) => {
    setLoading((old) => new Set([...old, id]));
    const sent = await send('GET', `/api/pages/tree?below=${id}`);
    setLoading((old) => new Set([...old].filter((k) => k !== id)));
    setFailed(sent.ok ? null : sent.problem.detail);
    if (sent.ok) setTree((old) => withBranch(old, id, sent.value.pages as PageInTree[] as P[]));
  }, []);

  /** Asks for the tree anew, with the branches that are open. */
  const refresh = useCallback(async () => {
    const sent = await send('GET', '/api/pages/tree');
    if (!sent.ok) return setFailed(sent.problem.detail);
    let next = treeOf(sent.value.pages as PageInTree[] as P[]);
    for (const id of opened) {
      const branch =
        next.pages.has(id) && !next.children.has(id) ? await send('GET', `/api/pages/tree?below=${id}`) : null;
      if (branch?.ok) next = withBranch(next, id, branch.value.pages as PageInTree[] as P[]);
    }
    setFailed(null);
    setFound(null);
    setTyped('');
    return setTree(next);
  }, [opened]);

  const searching = typed.trim() !== '';
  // Until the server has answered, titles that are here already.
  const shown = useMemo<KnownTree<P>>(
    () => (searching ? treeOf(found ?? matching([...tree.pages.values()], typed)) : tree),
    [searching, found, tree, typed],
  );
  const isOpen = useCallback(
    (id: string) => (searching ? !shut.has(id) : opened.has(id) || (!shut.has(id) && shown.children.has(id))),
    [searching, opened, shut, shown],
  );
  const rows = useMemo(() => rowsOf(shown, new Set([...shown.pages.keys()].filter(isOpen))), [shown, isOpen]);

  const toggle = (id: string) => {
    const open = isOpen(id);
    setShut((old) => new Set(open ? [...old, id] : [...old].filter((k) => k !== id)));
    setOpened((old) => new Set(open ? [...old].filter((k) => k !== id) : [...old, id]));
    if (!open && !searching && !tree.children.has(id)) void fetchBranch(id);
  };
  return {
    tree: shown,
    rows,
    toggle,
    refresh,
    loading,
    failed,
    typed,
    setTyped,
    searching,
    waiting: searching && found === null,
  };
}
