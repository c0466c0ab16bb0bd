import { useState } from 'react';
import type { ImportedLink, ImportRow } from '@/core/wire';
import { FilePick } from '../kit/FilePick';
import { Icon } from '../kit/Icon';
import { Dialog, ProblemNote, TRIAL } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { OutcomeTable } from './OutcomeTable';

/** The links of everybody who came new from a file: to be copied or kept as a table, now or never. */
function LinksShown({ lines, links }: { lines: number; links: readonly ImportedLink[] }) {
  const [copied, setCopied] = useState(false);
  const table = [
    ['name', 'email', 'link', 'works until'],
    ...links.map((row) => [row.name, row.email, row.link, row.until]),
  ]
    .map((cells) => cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(','))
    .join('\r\n');
  return (
    <div className="grid gap-3" role="status">
      <p>
        {lines === 1 ? 'The line is done.' : `All ${lines} lines are done.`}{' '}
        {links.length > 0 &&
          'Hand each person their link. They are shown only now; whoever loses theirs gets a new one from you.'}
      </p>
      {links.length > 0 && (
        <>
          <ul className="grid max-h-[45vh] gap-1.5 overflow-auto" aria-label="One-time links" tabIndex={0}>
            {links.map((row) => (
              <li key={row.email} className="rounded-s border border-line px-3 py-2">
                <p className="clip">
                  <strong>{row.name}</strong>{' '}
                  <span className="text-ink-2">
                    {row.email}, until {row.until}
                  </span>
                </p>
                <p className="clip font-mono text-sm select-all">{row.link}</p>
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn"
              onClick={() =>
                void navigator.clipboard.writeText(table).then(
                  () => setCopied(true),
                  () => undefined,
                )
              }
            >
              <Icon name={copied ? 'check' : 'copy'} size={16} /> {copied ? 'Copied' : 'Copy all'}
            </button>
            <a className="btn" download="links.csv" href={`data:text/csv;charset=utf-8,${encodeURIComponent(table)}`}>
              Keep as CSV
            </a>
          </div>
        </>
      )}
    </div>
  );
}

export function ImportDialog({ onClose }: { onClose: (changed: boolean) => void }) {
  const { act, busy, problem, clear } = useSend();
  const [csv, setCsv] = useState('');
  const [rows, setRows] = useState<ImportRow[] | null>(null);
  const [done, setDone] = useState<{ lines: number; links: ImportedLink[]; trial: boolean } | null>(null);
  const faults = rows?.filter((r) => r.outcome === 'fault').length ?? 0;
  const work = rows?.filter((r) => r.outcome === 'new' || r.outcome === 'more').length ?? 0;
  const run = async (confirm: boolean) => {
    const sent = await act('POST', '/api/people/import', { csv, confirm });
    if (sent?.ok && sent.value.done)
      setDone({
        lines: sent.value.rows.length,
        links: sent.value.trial ? [] : sent.value.links,
        trial: sent.value.trial ?? false,
      });
    else if (sent?.ok) setRows(sent.value.rows);
  };
  if (done)
    return (
      <Dialog
        open
        wide
        onClose={() => onClose(true)}
        title={
          done.trial
            ? 'A trial'
            : done.links.length === 1
              ? 'One person is invited'
              : `${done.links.length} people are invited`
        }
      >
        {done.trial ? <p>{TRIAL}</p> : <LinksShown lines={done.lines} links={done.links} />}
      </Dialog>
    );
  return (
    <Dialog open wide onClose={() => onClose(false)} title="Read people from a file">
      <div className="grid gap-4">
        <ProblemNote problem={problem} />
        <FilePick
          label="A CSV file"
          hint="First line: name,email,role,branch,from,until. One line for each role of a person; the branch by its address, like /about; days like 2026-11-25."
          accept=".csv,text/csv"
          text={csv}
          rows={5}
          onText={(text) => {
            setCsv(text);
            setRows(null);
            clear();
          }}
        />
        {rows === null ? (
          <button
            type="button"
            className="btn btn-main justify-self-start"
            disabled={busy || csv.trim() === ''}
            onClick={() => void run(false)}
          >
            {busy ? 'Reading…' : 'Show what would happen'}
          </button>
        ) : (
          <>
            <OutcomeTable
              label="What would happen, line by line"
              head={['Line', 'Who', '', 'What would happen']}
              fault="fault"
              rows={rows.map((row, i) => ({
                key: String(i),
                line: row.line,
                who: row.name,
                detail: row.email,
                outcome: row.outcome,
                says: row.says,
              }))}
            />
            <div className="flex flex-wrap items-center gap-3" role="status">
              <button
                type="button"
                className="btn btn-main"
                disabled={busy || faults > 0 || work === 0}
                onClick={() => void run(true)}
              >
                {busy ? 'Working…' : `Do it for ${work} ${work === 1 ? 'line' : 'lines'}`}
              </button>
              <span className="text-ink-2">
                {faults > 0
                  ? `${faults} ${faults === 1 ? 'line has a fault' : 'lines have faults'}: mend the file first. Nobody was added.`
                  : work === 0
                    ? 'There is nothing to do.'
                    : 'Each new person gets a one-time link, shown to you afterwards.'}
              </span>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
