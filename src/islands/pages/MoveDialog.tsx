import type { ListedPage } from '@/core/content';
import { useEffect, useState } from 'react';
import type { PageMove, MovePreview } from '@/core/wire';
import { sayList } from '@/core/words';
import { Dialog, Labelled, ProblemNote } from '../kit/parts';
import { PagePicker } from '../kit/PagePicker';
import { send, type ProblemDetails } from '../kit/send';
import { useSend } from '../kit/useSend';
import type { DropPlace } from './model';

/** Behind all that lie there. */
const LAST = 100_000;

/** Says what moves with a page before it is moved, and offers to keep old addresses working. */
export function MoveDialog({
  page,
  to,
  pages,
  onClose,
  onDone,
}: {
  page: ListedPage;
  to: DropPlace | null;
  pages: readonly ListedPage[];
  onClose: () => void;
  onDone: (words: string, back: PageMove | null) => void;
}) {
  const [place, setPlace] = useState<DropPlace | null>(to);
  const [redirect, setRedirect] = useState(true);
  const [preview, setPreview] = useState<MovePreview | null>(null);
  const [cannot, setCannot] = useState<ProblemDetails | null>(null);
  const { act, busy, problem } = useSend();
  useEffect(() => {
    if (!place) return undefined;
    let current = true;
    void send('POST', `/api/pages/${page.id}/move`, {
      parent: Number(place.parent),
      index: place.index,
      dry: true,
    }).then((sent) => {
      if (!current) return;
      setPreview(sent.ok && 'to' in sent.value ? sent.value : null);
      setCannot(sent.ok ? null : sent.problem);
    });
    return () => {
      current = false;
    };
  }, [page.id, place]);
  const move = async () => {
    if (!place) return;
    const sent = await act('POST', `/api/pages/${page.id}/move`, {
      parent: Number(place.parent),
      index: place.index,
      redirect,
    });
    if (sent?.ok)
      onDone(
        sent.value.trial
          ? 'This is a trial: nothing was moved.'
          : `${page.title} lies below ${preview?.to ?? 'its new place'} now.`,
        sent.value.trial || !('back' in sent.value) ? null : sent.value.back,
      );
  };
  /** What lies below the page chosen: it can stand before or after any of them. */
  const [mates, setMates] = useState<ListedPage[]>([]);
  const parent = place?.parent;
  useEffect(() => {
    if (to || parent === undefined) return undefined;
    let current = true;
    void send('GET', `/api/pages/tree?below=${parent}`).then(
      (sent) => current && setMates(sent.ok ? sent.value.pages.filter((mate) => mate.id !== page.id) : []),
    );
    return () => {
      current = false;
    };
  }, [to, parent, page.id]);
  const sameParent = place?.parent === page.parent;
  return (
    <Dialog open onClose={onClose} title={`Move “${page.title}”`} wide>
      <div className="grid gap-4">
        <ProblemNote problem={problem ?? cannot} />
        {!to && (
          <PagePicker
            label="Below which page?"
            pages={pages.filter((other) => other.may.arrange && other.id !== page.id)}
            value={place?.parent ?? ''}
            onChange={(chosen) => setPlace({ parent: chosen, index: LAST })}
          />
        )}
        {!to && place && mates.length > 0 && (
          <Labelled label="Where among its pages?">
            {(ids) => (
              <select
                {...ids}
                className="field"
                value={Math.min(place.index, mates.length)}
                onChange={(event) => setPlace({ parent: place.parent, index: Number(event.target.value) })}
              >
                <option value={0}>First</option>
                {mates.map((mate, i) => (
                  <option key={mate.id} value={i + 1}>
                    After “{mate.title}”{i === mates.length - 1 ? ', as the last' : ''}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
        )}
        {place && !preview && !cannot && <p role="status">Looking what would move with it…</p>}
        {preview && (
          <div role="status" className="grid gap-3">
            <p>
              {sameParent ? (
                <>
                  It gets another place among the pages below <strong>{preview.to}</strong>. Menus and lists that show
                  them follow at once.
                </>
              ) : (
                <>
                  It will lie below <strong>{preview.to}</strong>
                  {preview.below > 0 &&
                    `, with the ${preview.below} ${preview.below === 1 ? 'page' : 'pages'} below it`}
                  . Visitors see the change at once.
                </>
              )}
            </p>
            {preview.faults.map((fault) => (
              <p key={fault} className="note note-brick">
                {fault}
              </p>
            ))}
            {preview.lost.length > 0 && (
              <p className="note">
                Below “{preview.to}” you may no longer {sayList(preview.lost)}. To have it back you would have to ask
                somebody who may.
              </p>
            )}
            {preview.visitors && <p className="note">{preview.visitors}</p>}
            {(preview.navigation || preview.lists.length > 0) && (
              <ul className="list-disc pl-5">
                {preview.navigation && <li>In navigation it stands in another place.</li>}
                {preview.lists.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            )}
            {preview.addresses.length > 0 && (
              <section aria-label="Addresses that change">
                <h3 className="label">
                  {preview.addresses.length === 1
                    ? 'One address changes'
                    : `${preview.addresses.length} addresses change`}
                </h3>
                <ul className="max-h-[12rem] overflow-y-auto rounded-s border border-line">
                  {preview.addresses.map((change) => (
                    <li key={change.from} className="clip border-b border-line px-3 py-1.5 text-sm last:border-b-0">
                      <del className="text-ink-2">{change.from}</del> →{' '}
                      <ins className="font-semibold no-underline">{change.to}</ins>
                    </li>
                  ))}
                </ul>
                <label className="mt-2 flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="h-5 w-5"
                    checked={redirect}
                    onChange={(event) => setRedirect(event.target.checked)}
                  />{' '}
                  Old addresses lead to the new ones
                </label>
                {preview.links.length > 0 && (
                  <p className="clip mt-2 text-sm text-ink-2">
                    {'Links that follow by themselves: '}
                    {preview.links.map((link) => `${link.title} (${link.address})`).join(', ')}.
                  </p>
                )}
              </section>
            )}
          </div>
        )}
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-main"
            disabled={busy || !preview || preview.faults.length > 0}
            onClick={() => void move()}
          >
            {busy ? 'Moving…' : 'Move it'}
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Leave it where it is
          </button>
        </div>
      </div>
    </Dialog>
  );
}
