import { useState } from 'react';
import { Icon } from '../kit/Icon';
import { Confirm, Empty, ProblemNote, Said, Safe, TRIAL, useFocusLater } from '../kit/parts';
import { useSend } from '../kit/useSend';
import type { NoticePlace, NoticeRow } from './model';
import { NoticeForm } from './NoticeForm';

/** The notices of a site: post one, see what shows, end it. */
export function Notices(props: {
  notices: NoticeRow[];
  top: NoticePlace | null;
  suggestedEnd: string;
  timeZone: string;
  showingPost: boolean;
}) {
  return (
    <Safe>
      <NoticesScreen {...props} />
    </Safe>
  );
}

function NoticesScreen({
  notices,
  top,
  suggestedEnd,
  timeZone,
  showingPost,
}: {
  notices: NoticeRow[];
  top: NoticePlace | null;
  suggestedEnd: string;
  timeZone: string;
  showingPost: boolean;
}) {
  const focusLater = useFocusLater();
  const [writing, setWriting] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [ending, setEnding] = useState<NoticeRow | null>(null);
  const [correcting, setCorrecting] = useState<number | null>(null);
  const { act, busy, problem } = useSend();
  const end = async () => {
    const sent = ending && (await act('POST', `/api/notices/${ending.id}/end`));
    setEnding(null);
    if (sent?.ok) sent.value.trial ? setSaid(TRIAL) : location.reload();
  };
  const groups = [
    {
      state: 'showing' as const,
      title: 'Showing now',
      empty: 'No notice is showing. Visitors see the website as it is.',
    },
    { state: 'coming' as const, title: 'Coming', empty: null },
    { state: 'ended' as const, title: 'Ended', empty: null },
  ];
  return (
    <>
      <Said words={said} />
      <ProblemNote problem={problem} />
      {showingPost && !writing && (
        <button
          id="post-notice"
          type="button"
          className="btn btn-main mb-6 self-start"
          data-anchor="notices.list.post"
          onClick={() => setWriting(true)}
        >
          <Icon name="plus" /> Post a notice
        </button>
      )}
      {writing && (
        <NoticeForm
          top={top}
          suggestedEnd={suggestedEnd}
          // The last one of the part of the website that is theirs.
          example={notices.find((notice) => notice.mayCorrect)?.text}
          timeZone={timeZone}
          onClose={() => {
            setWriting(false);
            focusLater('post-notice');
          }}
          onDone={(trial, isLater) => {
            setWriting(false);
            if (trial) setSaid(TRIAL);
            else location.assign(`/room/notices?posted=${isLater ? 'later' : 'now'}`);
          }}
        />
      )}
      {groups.map(({ state, title, empty }) => {
        const rows = notices.filter((notice) => notice.state === state);
        if (rows.length === 0 && !empty) return null;
        return (
          <section
            key={state}
            className="mb-6"
            aria-label={title}
            data-anchor={state === 'showing' ? 'notices.list.now' : undefined}
          >
            <h2 className="mb-2">{title}</h2>
            {rows.length === 0 && <Empty icon="megaphone" title={empty ?? ''} />}
            <ul className="grid gap-2">
              {rows.map((notice) =>
                correcting === notice.id ? (
                  <li key={notice.id}>
                    <NoticeForm
                      old={notice}
                      top={top}
                      suggestedEnd={suggestedEnd}
                      timeZone={timeZone}
                      onClose={() => {
                        setCorrecting(null);
                        focusLater(`correct-${notice.id}`);
                      }}
                      onDone={(trial) => {
                        setCorrecting(null);
                        if (trial) setSaid(TRIAL);
                        else location.assign('/room/notices?corrected=1');
                      }}
                    />
                  </li>
                ) : (
                  <li
                    key={notice.id}
                    className={`card flex flex-wrap items-center gap-x-4 gap-y-2 ${state === 'ended' ? 'bg-paper' : ''}`}
                  >
                    <span className={`pill ${notice.kind === 'warning' ? 'pill-sun' : 'pill-sky'}`}>
                      <Icon name={notice.kind === 'warning' ? 'warn' : 'megaphone'} size={14} />{' '}
                      {notice.kind === 'warning' ? 'Warning' : 'Information'}
                    </span>
                    <div className="min-w-[14rem] flex-1">
                      <p className="clip">{notice.text}</p>
                      <p className="clip text-sm text-ink-2">
                        {notice.where} · {notice.times} · {notice.by}
                      </p>
                    </div>
                    {notice.mayCorrect && state !== 'ended' && (
                      <button
                        id={`correct-${notice.id}`}
                        type="button"
                        className="btn"
                        data-anchor={state === 'showing' ? 'notices.list.correct' : undefined}
                        onClick={() => setCorrecting(notice.id)}
                      >
                        Correct<span className="sr-only">: {notice.text}</span>
                      </button>
                    )}
                    {notice.mayEnd && state !== 'ended' && (
                      <button
                        type="button"
                        className="btn btn-stop"
                        data-anchor={state === 'showing' ? 'notices.list.end' : undefined}
                        disabled={busy}
                        onClick={() => setEnding(notice)}
                      >
                        End now<span className="sr-only">: {notice.text}</span>
                      </button>
                    )}
                  </li>
                ),
              )}
            </ul>
          </section>
        );
      })}
      <Confirm
        open={ending !== null}
        title="Take this notice off the website?"
        yes="End it now"
        busy={busy}
        onYes={() => void end()}
        onNo={() => setEnding(null)}
      >
        “{ending?.text}” leaves the website at once. It stays in the list of ended notices.
      </Confirm>
    </>
  );
}
