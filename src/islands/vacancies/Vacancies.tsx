import { useEffect, useState } from 'react';
import { Icon } from '../kit/Icon';
import { Confirm, Empty, ProblemNote, Said, Safe, TRIAL, useFocusLater } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { type FirstPage, MakeForm } from './MakeVacancy';

export interface VacancyRow {
  id: string;
  title: string;
  where: string;
  by: string | null;
  /** In words; empty while there is none. */ closes: string;
  state: 'draft' | 'waiting' | 'published' | 'down';
  open: boolean;
  /** Whether its last day is past. */
  closed: boolean;
  deleted: boolean;
  may: { retire: boolean };
}

const DOINGS = ['take-down', 'put-back', 'delete', 'bring-back'] as const;
type Doing = (typeof DOINGS)[number];
const WORDS: Record<Doing, { press: string; ask: string; text: string; said: string }> = {
  'take-down': {
    press: 'Take down',
    ask: 'Take this vacancy down?',
    text: 'Visitors do not see it any more. It can be put back as it is.',
    said: 'is taken down.',
  },
  'put-back': {
    press: 'Put back',
    ask: 'Put this vacancy back?',
    text: 'Visitors see it again until its last day.',
    said: 'is on the website again.',
  },
  delete: {
    press: 'Delete',
    ask: 'Delete this vacancy?',
    text: 'It goes out of the list and off the website. It can be brought back from the end of this list.',
    said: 'is deleted.',
  },
  'bring-back': {
    press: 'Bring back',
    ask: 'Bring this vacancy back?',
    text: 'It is in the list again, as it was.',
    said: 'is back.',
  },
};

const PILLS = {
  draft: ['pill-sun', 'Draft'],
  waiting: ['pill-sky', 'Second look'],
  down: ['pill-plain', 'Taken down'],
  published: ['pill-pine', 'On the website'],
} as const;

function State({ row }: { row: VacancyRow }) {
  const [look, words] =
    row.state === 'published' && !row.open
      ? (['pill-plain', row.closed ? 'Closed' : 'Its page is not on the website'] as const)
      : PILLS[row.state];
  return (
    <span className="flex flex-wrap gap-1">
      <span className={`pill ${look}`}>{words}</span>
      {row.open && row.state !== 'published' && <span className="pill pill-pine">On the website</span>}
    </span>
  );
}

/** The list of vacancies, and what can be done with each. */
export function Vacancies(props: { name: string; vacancies: VacancyRow[]; first: FirstPage }) {
  return (
    <Safe>
      <Screen {...props} />
    </Safe>
  );
}

function Screen({ name, vacancies, first }: { name: string; vacancies: VacancyRow[]; first: FirstPage }) {
  const { act, busy, problem } = useSend();
  const [making, setMaking] = useState(false);
  const [asking, setAsking] = useState<{ what: Doing; row: VacancyRow } | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  // What was done stands in the address of the list that is there anew; the server draws it without.
  useEffect(() => {
    const asked = new URLSearchParams(location.search);
    const what = DOINGS.find((one) => one === asked.get('did'));
    const row = vacancies.find(({ id }) => String(id) === asked.get('of'));
    if (what && row) setSaid(`“${row.title}” ${WORDS[what].said}`);
  }, [vacancies]);
  const focusLater = useFocusLater();
  const run = async () => {
    if (!asking) return;
    const { what, row } = asking;
    const sent =
      what === 'bring-back'
        ? await act('POST', `/api/items/${row.id}/bring-back`)
        : await act('POST', `/api/items/${row.id}/retire`, { do: what });
    setAsking(null);
    if (!sent?.ok) return;
    if (sent.value.trial) setSaid(TRIAL);
    else location.assign(`/room/vacancies?did=${what}&of=${row.id}`);
  };
  const doings = (row: VacancyRow): Doing[] =>
    !row.may.retire
      ? []
      : row.deleted
        ? ['bring-back']
        : [...(row.state === 'down' ? (['put-back'] as const) : row.open ? (['take-down'] as const) : []), 'delete'];
  const there = vacancies.filter((row) => !row.deleted);
  const deleted = vacancies.filter((row) => row.deleted);
  const table = (rows: VacancyRow[], label: string) => (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[46rem] border-collapse text-left" aria-label={label}>
        <thead>
          <tr className="border-b border-line-2 text-ink-2">
            <th scope="col" className="py-2 pr-4 font-semibold">
              Job
            </th>
            <th scope="col" className="py-2 pr-4 font-semibold">
              On the page
            </th>
            <th scope="col" className="py-2 pr-4 font-semibold">
              Apply until
            </th>
            <th scope="col" className="py-2 pr-4 font-semibold">
              How it stands
            </th>
            <th scope="col" className="py-2">
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className="border-b border-line align-top">
              <th scope="row" className="min-w-[12rem] py-2 pr-4 text-left font-semibold">
                {row.deleted ? (
                  <span className="clip">{row.title}</span>
                ) : (
                  <a className="link clip" href={`/room/vacancies/${row.id}`}>
                    {row.title}
                  </a>
                )}
                {row.by && <span className="block text-sm font-normal text-ink-2">{row.by}</span>}
              </th>
              <td className="clip py-2 pr-4">{row.where}</td>
              <td className="py-2 pr-4 whitespace-nowrap">{row.closes || 'No day yet'}</td>
              <td className="py-2 pr-4">
                {row.deleted ? <span className="pill pill-brick">Deleted</span> : <State row={row} />}
              </td>
              <td className="py-2">
                <span className="flex flex-wrap justify-end gap-1">
                  {doings(row).map((what) => (
                    <button
                      key={what}
                      type="button"
                      className="btn btn-small"
                      aria-label={`${WORDS[what].press}: ${row.title}`}
                      data-anchor={what === 'take-down' ? 'vacancies.list.retire' : undefined}
                      onClick={() => setAsking({ what, row })}
                    >
                      {WORDS[what].press}
                    </button>
                  ))}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
  return (
    <>
      <div className="mb-4 flex flex-wrap items-start justify-between gap-3">
        <div>
          <h1>{name}</h1>
          <p className="mt-1 max-w-prose text-ink-2">
            Jobs that are open. Visitors read each on its page until the last day to apply.
          </p>
        </div>
        {first && !making && (
          <button
            type="button"
            id="new-vacancy"
            className="btn btn-main"
            data-anchor="vacancies.list.make"
            onClick={() => setMaking(true)}
          >
            <Icon name="plus" size={16} /> New vacancy
          </button>
        )}
      </div>
      <Said words={said} />
      <ProblemNote problem={problem} />
      {making && (
        <MakeForm
          first={first}
          onClose={() => {
            setMaking(false);
            focusLater('new-vacancy');
          }}
          onTrial={() => {
            setMaking(false);
            setSaid(TRIAL);
          }}
        />
      )}
      <section aria-label="All vacancies" data-anchor="vacancies.list.list">
        {there.length === 0 ? (
          <Empty icon="job" title="No vacancy yet">
            {first
              ? 'Begin one with “New vacancy”. Visitors see nothing of it before it is published.'
              : 'Whoever may begin one will be seen here with it.'}
          </Empty>
        ) : (
          table(there, 'Vacancies')
        )}
      </section>
      {deleted.length > 0 && (
        <section className="mt-6" aria-labelledby="deleted">
          <h2 id="deleted" className="mb-2 text-base">
            Deleted
          </h2>
          {table(deleted, 'Deleted vacancies')}
        </section>
      )}
      {asking && (
        <Confirm
          open
          title={WORDS[asking.what].ask}
          yes={WORDS[asking.what].press}
          busy={busy}
          onYes={() => void run()}
          onNo={() => setAsking(null)}
        >
          <strong className="clip">{asking.row.title}</strong>. {WORDS[asking.what].text}
        </Confirm>
      )}
    </>
  );
}
