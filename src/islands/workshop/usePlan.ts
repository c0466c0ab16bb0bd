import { useCallback, useRef, useState } from 'react';
import { applyOperation, type Operation } from '@/core/plan';
import type { HistoryEntry, PlanState } from '@/core/wire';
import { useUnsent } from '../kit/leaving';
import { send, type ProblemDetails, type Sent } from '../kit/send';
import { useInventory } from '../kit/inventory';

/**
 * The prepared plan. A change shows at once and is sent in order behind the ones before it; where the server refuses,
 * or another keyholder was faster in the same place, the newest plan takes its place and the reason is told. `role` is
 * the one prepared; null for what concerns the plan as a whole. Undo is one's own and of this role; what others changed
 * in the same place since is named first (`asking`) and goes with it only on a further word.
 */
export function usePlan(initial: PlanState, role: string | null) {
  const inventory = useInventory();
  const [asking, setAsking] = useState<HistoryEntry[] | null>(null);
  const [state, setState] = useState(initial);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  /** How many changes are on their way: at once, and as the screen shows it. */
  const underWay = useRef(0);
  const [waiting, setWaiting] = useState(0);
  const count = useCallback((more: 1 | -1) => setWaiting((underWay.current += more)), []);
  const latest = useRef(initial);
  const chain = useRef<Promise<unknown>>(Promise.resolve());
  const pending = useRef<Operation[][]>([]);
  const refusals = useRef(0);

  const show = useCallback(
    (server: PlanState) => {
      latest.current = server;
      let plan = server.plan;
      for (const operations of pending.current)
        for (const operation of operations) {
          const applied = applyOperation(inventory, plan, operation);
          if (applied.ok) plan = applied.plan;
        }
      setState({ ...server, plan });
    },
    [inventory],
  );

  const post = useCallback(
    (ask: () => Promise<Sent<PlanState>>, operations: Operation[] | null, isDue: () => boolean = () => true) => {
      if (operations) pending.current.push(operations);
      count(1);
      if (operations) show(latest.current);
      const madeAfter = refusals.current;
      chain.current = chain.current.then(async () => {
        if (madeAfter !== refusals.current || !isDue()) return count(-1);
        const sent = await ask();
        if (operations) pending.current.shift();
        count(-1);
        if (sent.ok) {
          setProblem(null);
          return show(sent.value);
        }
        // Whatever came behind was made on a plan that is not so: it goes with it, and the editor is told.
        pending.current = [];
        refusals.current += 1;
        setProblem(sent.problem);
        return show((sent.problem['state'] as PlanState | undefined) ?? latest.current);
      });
    },
    [count, show],
  );

  const change = useCallback(
    (...operations: Operation[]): void => {
      let { plan } = state;
      for (const operation of operations) {
        const applied = applyOperation(inventory, plan, operation);
        if (!applied.ok) {
          if (applied.code !== 'already-so')
            setProblem({
              kind: 'bad-input',
              code: applied.code,
              status: 422,
              title: 'Not possible',
              detail: applied.detail,
            });
          return;
        }
        plan = applied.plan;
      }
      post(
        () => send('POST', '/api/workshop/plan', { revision: latest.current.revision, role, operations }),
        operations,
      );
    },
    [inventory, post, role, state],
  );
  // Whether there is anything to take back is asked in its turn: what was pressed before may still be on its way.
  const undo = useCallback(
    (knowing = false) =>
      post(
        () =>
          send('POST', '/api/workshop/history', {
            direction: 'undo',
            role,
            also: latest.current.undo?.also.map((entry) => entry.id) ?? [],
          }),
        null,
        () => {
          const entry = latest.current.undo;
          const isNamed = knowing || entry?.also.length === 0;
          setAsking(entry && !isNamed ? entry.also : null);
          return entry !== null && isNamed;
        },
      ),
    [post, role],
  );
  const redo = useCallback(
    () =>
      post(
        () => send('POST', '/api/workshop/history', { direction: 'redo', role, also: [] }),
        null,
        () => latest.current.redo !== null,
      ),
    [post, role],
  );
  /** Waits for what is on its way to the server; whether all of it was taken. */
  const settled = useCallback(async () => {
    const before = refusals.current;
    await chain.current;
    return refusals.current === before;
  }, []);
  // A link away, to the review above all, is followed when the server has what was changed last. Where something is
  // refused one stays and reads why.
  useUnsent({ isThere: () => underWay.current > 0, settle: settled });
  return {
    state,
    change,
    settled,
    undo,
    redo,
    asking,
    stopAsking: () => setAsking(null),
    problem,
    saving: waiting > 0,
    clearProblem: () => setProblem(null),
  };
}
export type Change = ReturnType<typeof usePlan>['change'];
