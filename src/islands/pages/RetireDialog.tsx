import type { ListedPage } from '@/core/content';
import { useEffect, useState } from 'react';
import type { RetirePreview } from '@/core/wire';
import { Dialog, ProblemNote } from '../kit/parts';
import { send, type ProblemDetails } from '../kit/send';
import { useSend } from '../kit/useSend';

export type Retiring = 'take-down' | 'put-back' | 'delete';

const WORDS = {
  'take-down': {
    title: 'Take down',
    yes: 'Take it down',
    done: 'is off the website. It stays here, and can be put back.',
    text: 'Visitors will not find it any more. It stays in the back office as it is, and can be put back at any time.',
  },
  delete: {
    title: 'Delete',
    yes: 'Delete it',
    done: 'is deleted. It can be brought back from “Deleted pages”.',
    text: 'It goes out of the tree and off the website. Nothing is destroyed: it can be brought back from “Deleted pages”, with all that lay below.',
  },
  'put-back': {
    title: 'Put back',
    yes: 'Put it back',
    done: 'is on the website again.',
    text: 'Visitors see it again as it was when it was taken down, with what was taken down with it.',
  },
} as const;

/** Takes a page down, deletes it or puts it back, after saying what goes with it and whose links will break. */
export function RetireDialog({
  page,
  as,
  onClose,
  onDone,
}: {
  page: ListedPage;
  as: Retiring;
  onClose: () => void;
  onDone: (words: string) => void;
}) {
  const [look, setLook] = useState<RetirePreview | null>(null);
  const [cannot, setCannot] = useState<ProblemDetails | null>(null);
  const { act, busy, problem } = useSend();
  const words = WORDS[as];
  useEffect(() => {
    void send('POST', `/api/items/${page.id}/retire`, { do: 'look' }).then((sent) => {
      if (!sent.ok) setCannot(sent.problem);
      else if ('links' in sent.value) setLook(sent.value);
    });
  }, [page.id]);
  const go = async () => {
    const sent = await act('POST', `/api/items/${page.id}/retire`, { do: as });
    if (sent?.ok) onDone(sent.value.trial ? 'This is a trial: nothing was changed.' : `${page.title} ${words.done}`);
  };
  return (
    <Dialog open onClose={onClose} title={`${words.title} “${page.title}”`}>
      <div className="grid gap-4">
        <ProblemNote problem={problem ?? cannot} />
        <p>{words.text}</p>
        {!look && !cannot && <p role="status">Looking what goes with it…</p>}
        {look && as !== 'put-back' && (
          <div className="grid gap-2" role="status">
            {look.below > 0 && (
              <p className="note">
                {look.below === 1 ? 'The page below goes with it.' : `The ${look.below} pages below go with it.`}
              </p>
            )}
            {look.also.map((what) => (
              <p key={what} className="note">
                {what} on it {/^One /.test(what) ? 'goes' : 'go'} with it.
              </p>
            ))}
            {as === 'delete' && look.drafts > 0 && (
              <p className="note">
                {look.drafts === 1
                  ? 'A draft that is not published yet goes with it.'
                  : `${look.drafts} drafts that are not published yet go with it.`}
              </p>
            )}
            {look.links.length > 0 ? (
              <div className="note note-brick">
                <strong>Links that will lead nowhere:</strong>
                <ul className="mt-1 list-disc pl-5">
                  {look.links.map((link) => (
                    <li key={`${link.page} ${link.address}`} className="clip">
                      <a className="link underline" href={link.href}>
                        {link.title}
                      </a>{' '}
                      leads to {link.address}
                    </li>
                  ))}
                </ul>
              </div>
            ) : (
              <p className="text-ink-2">No other page links to it.</p>
            )}
          </div>
        )}
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className={`btn ${as === 'put-back' ? 'btn-main' : 'btn-stop'}`}
            disabled={busy || (!look && as !== 'put-back')}
            onClick={() => void go()}
          >
            {busy ? 'One moment…' : words.yes}
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
        </div>
      </div>
    </Dialog>
  );
}
