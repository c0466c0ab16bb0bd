import { useState } from 'react';
import type { PlanState } from '@/core/wire';
import { sayCount, sayList } from '@/core/words';
import { Confirm, Labelled, ProblemNote, Safe } from '../kit/parts';
import { type Sent } from '../kit/send';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

/** Asks, then makes what is prepared the plan in force: all of it, or the roles named. */
export function GoLive(props: { revision: number; people: number; roles: (string | null)[] | null }) {
  return (
    <Safe>
      <GoLiveCard {...props} />
    </Safe>
  );
}

function GoLiveCard({
  revision,
  people,
  roles,
}: {
  revision: number;
  people: number;
  roles: (string | null)[] | null;
}) {
  const { act, busy, problem } = useSend();
  const [note, setNote, forgetNote] = useKept('note for the release');
  const [asking, setAsking] = useState(false);
  const go = async () => {
    const sent = await act('POST', '/api/workshop/release', { revision, note, roles });
    setAsking(false);
    if (!sent?.ok) return;
    forgetNote();
    location.assign('/workshop/releases?done=live');
  };
  return (
    <div className="card grid gap-3">
      <ProblemNote problem={problem}>
        {problem?.kind === 'conflict' && (
          <p className="mt-2">
            <a className="link underline" href="/workshop/release">
              Look at the newest plan
            </a>
          </p>
        )}
      </ProblemNote>
      <Labelled label="What is this release for?" hint="For whoever looks back later.">
        {(ids) => (
          <input
            {...ids}
            className="field"
            maxLength={300}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Labelled>
      <button type="button" className="btn btn-main" data-anchor="workshop.release.go" onClick={() => setAsking(true)}>
        {roles === null ? 'Go live' : 'Go live with these'}
      </button>
      <Confirm
        open={asking}
        title="Make this the plan in force?"
        yes="Go live now"
        busy={busy}
        onYes={() => void go()}
        onNo={() => setAsking(false)}
      >
        {people === 0
          ? 'Nobody’s room changes at once.'
          : `${people} ${people === 1 ? 'person has' : 'people have'} the new room from their next press on.`}{' '}
        The plan before stays under Releases; you can go back to it.
      </Confirm>
    </div>
  );
}

/** Goes back to the release that was looked at, after asking. */
export function ReturnTo({
  number,
  revision,
  prepared,
  others,
}: {
  number: number;
  revision: number;
  /** Something is prepared that is not live. */ prepared: boolean;
  others: readonly Other[];
}) {
  const { act, busy, problem } = useSend();
  const [asking, setAsking] = useState(false);
  const go = async () => {
    const sent = await act('POST', '/api/workshop/return', { revision, to: number });
    setAsking(false);
    if (sent?.ok) location.assign('/workshop/releases?done=back');
  };
  return (
    <div className="card grid gap-3">
      <ProblemNote problem={problem} />
      {prepared && (
        <p className="note">
          What is prepared and not yet live is put aside by this{saysOthers(others)}. One press on Undo, under “Review
          and go live”, prepares it again, together with all that is taken back here.
        </p>
      )}
      <button type="button" className="btn btn-main" onClick={() => setAsking(true)}>
        Go back to release {number}
      </button>
      <Confirm
        open={asking}
        title={`Go back to release ${number}?`}
        yes="Go back now"
        busy={busy}
        onYes={() => void go()}
        onNo={() => setAsking(false)}
      >
        Everybody gets the room of release {number} from their next press on. The release in force now stays in the
        list, so you can come back to it as well.
      </Confirm>
    </div>
  );
}

/** Somebody else who prepared something, and how many changes of it. */
interface Other {
  name: string;
  changes: number;
}
const saysOthers = (others: readonly Other[]): string =>
  others.length === 0
    ? ''
    : `; what others prepared goes with it: ${sayList(others.map(({ name, changes }) => `${sayCount(changes, 'change', 'changes')} by ${name}`))}`;

/** Drops what is prepared, after asking; or takes back that this was done. */
export function DropPrepared({
  revision,
  roles,
  changes,
  others = [],
  undo,
}: {
  revision: number;
  roles: (string | null)[] | null;
  changes: number;
  others?: readonly Other[];
  undo?: { words: string; also: number[] };
}) {
  const { act, busy, problem } = useSend();
  const [asking, setAsking] = useState(false);
  const run = async (sending: Promise<Sent<PlanState> | null>) => {
    const sent = await sending;
    setAsking(false);
    if (sent?.ok) location.assign('/workshop/release');
  };
  if (undo)
    return (
      <div className="grid gap-2">
        <ProblemNote problem={problem} />
        <button
          type="button"
          className="btn btn-small justify-self-start"
          disabled={busy}
          onClick={() =>
            void run(act('POST', '/api/workshop/history', { direction: 'undo', role: null, also: undo.also }))
          }
        >
          Undo: {undo.words.toLowerCase()}
        </button>
        {undo.also.length > 0 && (
          <p className="text-sm text-ink-2">
            {undo.also.length === 1 ? 'One change made since goes' : `${undo.also.length} changes made since go`} with
            it.
          </p>
        )}
      </div>
    );
  return (
    <div className="grid gap-2">
      <ProblemNote problem={problem} />
      <button
        type="button"
        className="btn btn-quiet btn-small btn-stop justify-self-start"
        onClick={() => setAsking(true)}
      >
        Drop what is prepared{roles && ' here'}
      </button>
      <Confirm
        open={asking}
        title={changes === 1 ? 'Drop this change?' : `Drop these ${changes} changes?`}
        yes="Drop it"
        busy={busy}
        onYes={() => void run(act('POST', '/api/workshop/drop', { revision, roles }))}
        onNo={() => setAsking(false)}
      >
        What is prepared becomes what is in force{roles ? ', for the parts shown' : ''}
        {saysOthers(others)}. It can be undone.
      </Confirm>
    </div>
  );
}
