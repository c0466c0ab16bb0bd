import { useSend } from '../kit/useSend';

/** The one way back from a trial. */
export function StepOut() {
  const { act, busy } = useSend();
  const out = async () => {
    const sent = await act('POST', '/api/workshop/step-out');
    if (sent?.ok) location.assign(sent.value.to);
  };
  return (
    <button type="button" className="btn btn-small" disabled={busy} onClick={() => void out()}>
      Back to the Workshop
    </button>
  );
}
