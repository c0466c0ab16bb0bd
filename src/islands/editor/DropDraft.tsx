import { useState } from 'react';
import { Confirm } from '../kit/parts';

/** Drops a draft, asked first. */
export function DropDraft({ busy, onDrop }: { busy: boolean; onDrop: () => void }) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <button
        type="button"
        className="btn btn-quiet btn-stop btn-small justify-self-start"
        disabled={busy}
        onClick={() => setAsking(true)}
      >
        Drop this draft
      </button>
      <Confirm
        open={asking}
        title="Drop this draft?"
        yes="Drop the draft"
        busy={busy}
        onYes={() => {
          setAsking(false);
          onDrop();
        }}
        onNo={() => setAsking(false)}
      >
        It says again what visitors see. The draft is put aside under “Earlier versions”.
      </Confirm>
    </>
  );
}
