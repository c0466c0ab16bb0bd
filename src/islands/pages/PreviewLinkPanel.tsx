import { useState } from 'react';
import type { PreviewEntry } from '@/core/wire';
import { sayTime, type Calendar } from '@/core/words';
import { Panel } from '../editor/Panel';
import { Icon } from '../kit/Icon';
import { Labelled, ProblemNote, Said } from '../kit/parts';
import { useSend } from '../kit/useSend';

interface Clock {
  calendar: Calendar;
  now: string;
}

/**
 * Links under which somebody without an account can look at the draft for some days: those there are, and a new one.
 */
export function PreviewLinkPanel({
  page,
  initial,
  calendar,
  now,
  before,
}: Clock & { page: string; initial: PreviewEntry[]; /** Keeps the draft first. */ before: () => Promise<unknown> }) {
  const { act, busy, problem } = useSend();
  const [days, setDays] = useState(7);
  const [link, setLink] = useState<{ url: string; expiresAt: string } | null>(null);
  const [links, setLinks] = useState(initial);
  const [said, setSaid] = useState<string | null>(null);
  const say = (instant: string) => sayTime(new Date(instant), calendar, new Date(now));
  const end = async (id: number) => {
    const sent = await act('POST', `/api/pages/${page}/preview-link`, { end: id });
    if (!sent?.ok) return;
    setLinks(sent.value.links);
    setLink(null);
    setSaid(sent.value.trial ? 'This is a trial: the link still works.' : 'The link leads nowhere any more.');
  };
  const make = async () => {
    await before();
    const sent = await act('POST', `/api/pages/${page}/preview-link`, { days });
    if (!sent?.ok) return;
    if ('url' in sent.value) setLink(sent.value);
    setLinks(sent.value.links);
    setSaid(sent.value.trial ? 'This is a trial: the link leads nowhere.' : null);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(link?.url ?? '');
    setSaid('The link is copied.');
  };
  return (
    <Panel
      name="Preview by a link"
      value={
        links.length === 0
          ? 'For somebody without an account'
          : links.length === 1
            ? 'One link works'
            : `${links.length} links work`
      }
      anchor="pages.edit.link"
    >
      <ProblemNote problem={problem} />
      <Said words={said} />
      {links.length > 0 && (
        <ul className="grid gap-2" aria-label="Links that work">
          {links.map((entry) => (
            <li key={entry.id} className="flex flex-wrap items-center justify-between gap-2 text-sm">
              <span className="clip">
                {entry.by}, {say(entry.madeAt)}; until {say(entry.expiresAt)}
              </span>
              <button type="button" className="btn btn-small" disabled={busy} onClick={() => void end(entry.id)}>
                End it
                <span className="sr-only">
                  : the link of {entry.by}, {say(entry.madeAt)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {link ? (
        <>
          <p>
            Whoever has this link sees the newest draft until {say(link.expiresAt)}. It is shown only now, and ends
            sooner when you may no longer change the page or fewer people may visit it.
          </p>
          <input
            className="field"
            readOnly
            aria-label="Link to the preview"
            value={link.url}
            onFocus={(event) => event.target.select()}
          />
          <button type="button" className="btn btn-small justify-self-start" onClick={() => void copy()}>
            <Icon name="copy" size={15} /> Copy it
          </button>
        </>
      ) : (
        <>
          <Labelled label="How long shall it work?">
            {(ids) => (
              <select {...ids} className="field" value={days} onChange={(event) => setDays(Number(event.target.value))}>
                {[1, 7, 30].map((n) => (
                  <option key={n} value={n}>
                    {n === 1 ? 'One day' : `${n} days`}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
          <button
            type="button"
            className="btn btn-small justify-self-start"
            disabled={busy}
            onClick={() => void make()}
          >
            Make a link
          </button>
        </>
      )}
    </Panel>
  );
}
