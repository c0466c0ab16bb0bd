import { zoneCity } from '@/core/words';
import { useRef, useState } from 'react';
import { Icon } from '../kit/Icon';
import { PagePicker } from '../kit/PagePicker';
import { Confirm, Empty, Labelled, ProblemNote, Said, Safe, TRIAL, useFocusLater } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

export interface NoticeRow {
  id: number;
  text: string;
  kind: 'information' | 'warning';
  state: 'showing' | 'coming' | 'ended';
  where: string;
  times: string;
  by: string;
  mayEnd: boolean;
  mayCorrect: boolean;
  /** Its start on the site's own clock while that is to come, and its end. */
  from: string | null;
  until: string | null;
}
/** The highest page one may post on. */
export interface NoticePlace {
  id: string;
  name: string;
  /** Whether it stands for the whole website. */
  isWhole: boolean;
}

const MOST = 300;

/** Posts a notice, or sets one right. */
function NoticeForm({
  old,
  top,
  suggestedEnd,
  timeZone,
  onDone,
  onClose,
}: {
  old?: NoticeRow;
  top: NoticePlace | null;
  suggestedEnd: string;
  timeZone: string;
  onDone: (trial: boolean) => void;
  onClose: () => void;
}) {
  const { act, busy, problem, faultOf } = useSend();
  // A notice half written is still there when one comes back to it.
  const [text, setText, forget] = useKept(old ? `notice ${old.id}` : 'notice', old?.text);
  const [kind, setKind] = useState<'information' | 'warning'>(old?.kind ?? 'warning');
  const [place, setPlace] = useState(top?.isWhole ? '' : (top?.id ?? ''));
  const [from, setFrom] = useState(old?.from ?? '');
  const [ends, setEnds] = useState(!old || old.until !== null);
  const [until, setUntil] = useState(old?.until ?? suggestedEnd);
  const [missing, setMissing] = useState(false);
  const area = useRef<HTMLTextAreaElement>(null);
  const post = async () => {
    if (text.trim() === '') {
      setMissing(true);
      area.current?.focus();
      return;
    }
    const sent = await act('POST', old ? `/api/notices/${old.id}/correct` : '/api/notices', {
      text,
      kind,
      ...(old ? { was: old.text } : place !== '' && { page: place }),
      ...(from && { from }),
      ...(ends && until && { until }),
    });
    if (!sent?.ok) return;
    forget();
    onDone(sent.value.trial === true);
  };
  return (
    <form
      className="card mb-6 grid gap-4 bg-paper"
      aria-label={old ? 'Set this notice right' : 'Post a notice'}
      onSubmit={(event) => {
        event.preventDefault();
        void post();
      }}
    >
      <ProblemNote problem={problem} />
      <Labelled
        label="What should visitors read?"
        anchor="notices.form.text"
        fault={missing && text.trim() === '' ? 'Write what visitors should read.' : faultOf('text')}
        hint={`What, where, until when. ${MOST - [...text].length} characters left.`}
      >
        {(ids) => (
          <textarea
            {...ids}
            ref={area}
            autoFocus
            rows={2}
            maxLength={MOST}
            className="field"
            value={text}
            onChange={(event) => setText(event.target.value)}
            placeholder="The 07:40 to Skell Island runs 20 minutes late."
          />
        )}
      </Labelled>
      <div className="grid gap-4 md:grid-cols-2">
        {old ? (
          <div>
            <p className="label">Where does it show?</p>
            <p className="min-h-[42px] py-2">{old.where}</p>
          </div>
        ) : (
          <div data-anchor="notices.form.place">
            <PagePicker
              label="Where does it show?"
              pages="notice.post"
              value={place}
              {...(top?.isWhole ? { whole: 'The whole website' } : { now: top?.name ?? '' })}
              onChange={setPlace}
            />
            {faultOf('page') && <p className="mt-1 text-brick">{faultOf('page')}</p>}
            <p className="hint mt-1">There and on all pages below it.</p>
          </div>
        )}
        <fieldset>
          <legend className="label">What kind is it?</legend>
          <div className="flex min-h-[42px] flex-wrap items-center gap-4">
            {(['warning', 'information'] as const).map((k) => (
              <label key={k} className="flex items-center gap-2">
                <input
                  type="radio"
                  name="kind"
                  className="h-4 w-4 accent-pine"
                  checked={kind === k}
                  onChange={() => setKind(k)}
                />{' '}
                {k === 'warning' ? 'Warning' : 'Information'}
              </label>
            ))}
          </div>
        </fieldset>
        {old?.state !== 'showing' && (
          <Labelled
            label="When does it begin?"
            fault={faultOf('from')}
            hint={from ? `${zoneCity(timeZone)} time.` : 'Left empty: at once.'}
          >
            {(ids) => (
              <input
                {...ids}
                type="datetime-local"
                className="field"
                value={from}
                onChange={(event) => setFrom(event.target.value)}
              />
            )}
          </Labelled>
        )}
        <div data-anchor="notices.form.until">
          <Labelled
            label="When does it end?"
            fault={faultOf('until')}
            hint={ends ? `${zoneCity(timeZone)} time.` : 'Somebody must end it.'}
          >
            {(ids) => (
              <input
                {...ids}
                type="datetime-local"
                className="field"
                value={until}
                disabled={!ends}
                onChange={(event) => setUntil(event.target.value)}
              />
            )}
          </Labelled>
          <label className="mt-1 flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="h-4 w-4 accent-pine"
              checked={!ends}
              onChange={(event) => setEnds(!event.target.checked)}
            />{' '}
            No end; I end it myself
          </label>
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <button type="submit" className="btn btn-main" disabled={busy} data-anchor="notices.form.send">
          {busy ? 'Putting it there…' : old ? 'Set it right' : 'Put it on the website'}
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => {
            if (old) forget();
            onClose();
          }}
        >
          Cancel
        </button>
        {!old && (
          <span className="hint">
            Shows across the top of{' '}
            {top?.isWhole && place === '' ? 'every page of the website' : 'that page and all below it'}
            {from ? ', from that hour on' : ', at once'}.
          </span>
        )}
      </div>
    </form>
  );
}

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
          timeZone={timeZone}
          onClose={() => {
            setWriting(false);
            focusLater('post-notice');
          }}
          onDone={(trial) => {
            setWriting(false);
            if (trial) setSaid(TRIAL);
            else location.assign('/room/notices?posted=1');
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
