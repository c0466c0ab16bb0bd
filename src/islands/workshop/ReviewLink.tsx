import type { usePlan } from './usePlan';

/**
 * Leads to the review: with what was changed last, typed words too, which are set by pressing here. Where the server
 * refuses it one stays and reads why.
 */
export function ReviewLink({
  plan: { saving, settled },
  anchor,
}: {
  plan: Pick<ReturnType<typeof usePlan>, 'saving' | 'settled'>;
  anchor?: string;
}) {
  return (
    <a
      className="btn btn-main"
      href="/workshop/release"
      data-anchor={anchor}
      onClick={(event) => {
        if (!saving || event.ctrlKey || event.metaKey || event.shiftKey) return;
        event.preventDefault();
        void settled().then((taken) => taken && location.assign('/workshop/release'));
      }}
    >
      Review and go live
    </a>
  );
}
