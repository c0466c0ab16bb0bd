import { useState } from 'react';
import { Confirm, Labelled, ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

/** Asks, then makes the prepared plan the one in force. */
export function GoLive(props: { revision: number; people: number }) {
  return (
    <Safe>
      <GoLiveCard {...props} />
    </Safe>
  );
}

function GoLiveCard({ revision, people }: { revision: number; people: number }) {
  const { act, busy, problem } = useSend();
  const [note, setNote] = useState('');
  const [asking, setAsking] = useState(false);
  const go = async () => {
    const sent = await act('POST', '/api/workshop/release', { revision, note });
    setAsking(false);
    if (sent?.ok) location.assign('/workshop/releases?done=live');
  };
  return (
    <div className="card grid gap-3">
      <ProblemNote problem={problem}>
        {problem?.code === 'conflict' && (
          <p className="mt-2">
            <a className="link underline" href="/workshop/release">
              Look at the newest plan
            </a>
          </p>
        )}
      </ProblemNote>
      <Labelled label="What is this release for?" hint="For whoever looks back later.">
        {(ids) => <input {...ids} className="field" maxLength={300} value={note} onChange={(event) => setNote(event.target.value)} />}
      </Labelled>
      <button type="button" className="btn btn-main" data-anchor="workshop.release.go" onClick={() => setAsking(true)}>
        Go live
      </button>
      <Confirm open={asking} title="Make this the plan in force?" yes="Go live now" busy={busy} onYes={() => void go()} onNo={() => setAsking(false)}>
        {people === 0 ? 'Nobody holds these roles yet.' : `${people} ${people === 1 ? 'person has' : 'people have'} the new room from their next press on.`} The plan before stays under Releases; you can go back to it.
      </Confirm>
    </div>
  );
}

/** Goes back to an earlier release, after asking. */
export function ReturnTo({ number, revision }: { number: number; revision: number }) {
  const { act, busy, problem } = useSend();
  const [asking, setAsking] = useState(false);
  const go = async () => {
    const sent = await act('POST', '/api/workshop/return', { revision, to: number });
    setAsking(false);
    if (sent?.ok) location.assign('/workshop/releases?done=back');
  };
  return (
    <div>
      <button type="button" className="btn btn-small" onClick={() => setAsking(true)}>
        Go back to this<span className="sr-only"> release {number}</span>
      </button>
      <div className="mt-2 max-w-md empty:hidden">
        <ProblemNote problem={problem} />
      </div>
      <Confirm open={asking} title={`Go back to release ${number}?`} yes="Go back now" busy={busy} onYes={() => void go()} onNo={() => setAsking(false)}>
        Everybody gets the room of release {number} from their next press on. The release in force now stays in the list, so you can come back to it as well.
      </Confirm>
    </div>
  );
}
