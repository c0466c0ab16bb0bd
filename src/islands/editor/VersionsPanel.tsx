import { useState } from 'react';
import type { FieldChange, PageContent } from '@/core/content';
import { sayTime, type Calendar } from '@/core/words';
import { Dialog, Labelled } from '../kit/parts';
import { send } from '../kit/send';
import { Changes } from '../review/Changes';
import { useAbout } from './about';
import { Panel } from './Panel';

export interface VersionRow {
  revisionId: number;
  by: string;
  at: string;
  kind: 'published' | 'kept' | 'sent';
  note: string;
  live: boolean;
}
const KIND = { published: '', kept: 'Put aside. ', sent: 'Sent, not published. ' };

/** Everything the page once said: any two versions compared, and any of them written on from. */
export function VersionsPanel({
  item,
  versions,
  onWriteOn,
  calendar,
  now,
}: {
  item: string;
  versions: VersionRow[];
  /** Left out for who may not change the page. */ onWriteOn?:
    ((content: PageContent, of: string, version: number) => void) | undefined;
  calendar: Calendar;
  now: string;
}) {
  const { one, anchor } = useAbout();
  const [open, setOpen] = useState<VersionRow | null>(null);
  const [other, setOther] = useState('');
  const [compared, setCompared] = useState<{ changes: FieldChange[]; content: PageContent } | string | null>(null);
  const day = (at: string) => sayTime(new Date(at), calendar, new Date(now));
  const look = async (version: VersionRow, withId: string) => {
    setOpen(version);
    setOther(withId);
    setCompared(null);
    const sent = await send(
      'GET',
      `/api/items/${item}/versions/${version.revisionId}${withId ? `?with=${withId}` : ''}`,
    );
    setCompared(sent.ok ? sent.value : sent.problem.detail);
  };
  return (
    <section aria-label="Earlier versions">
      <Panel
        name="Earlier versions"
        value={
          versions.length === 0
            ? 'Never published'
            : versions.length === 1
              ? 'One version'
              : `${versions.length} versions`
        }
        anchor={anchor('versions')}
        open
      >
        {versions.length === 0 && <p className="text-ink-2">This {one} has never been published.</p>}
        <ul className="-my-1.5 max-h-[20rem] divide-y divide-line overflow-y-auto">
          {versions.map((version) => (
            <li key={`${version.kind}${version.revisionId} ${version.at}`} className="relative py-1.5">
              <div className="flex items-baseline justify-between gap-2">
                <span className="clip">
                  {day(version.at)} · {version.by}
                </span>
                {version.live ? (
                  <span className="pill pill-pine">live</span>
                ) : (
                  <button type="button" className="link min-h-[24px] text-sm" onClick={() => void look(version, '')}>
                    Compare<span className="sr-only"> the version of {day(version.at)} with what visitors see</span>
                  </button>
                )}
              </div>
              {(KIND[version.kind] || version.note) && (
                <p className="clip text-sm text-ink-2">
                  {KIND[version.kind]}
                  {version.note}
                </p>
              )}
            </li>
          ))}
        </ul>
      </Panel>
      <Dialog
        open={open !== null}
        onClose={() => setOpen(null)}
        title={open ? `The version of ${day(open.at)}` : ''}
        wide
      >
        {open && (
          <div className="mb-4 flex flex-wrap items-end gap-3">
            <div className="min-w-[14rem] flex-1">
              <Labelled label="Compared with" hint="Underlined is only there, struck through only in this version.">
                {(ids) => (
                  <select
                    {...ids}
                    className="field"
                    value={other}
                    onChange={(event) => void look(open, event.target.value)}
                  >
                    <option value="">What visitors see now</option>
                    {versions
                      .filter((version) => version.revisionId !== open.revisionId && !version.live)
                      .map((version) => (
                        <option key={`${version.revisionId} ${version.at}`} value={version.revisionId}>
                          {day(version.at)}, {version.by}
                        </option>
                      ))}
                  </select>
                )}
              </Labelled>
            </div>
            {onWriteOn && compared !== null && typeof compared !== 'string' && (
              <button
                type="button"
                className="btn btn-main"
                onClick={() => {
                  onWriteOn(compared.content, day(open.at), open.revisionId);
                  setOpen(null);
                }}
              >
                Go back to this version
              </button>
            )}
          </div>
        )}
        {compared === null && <p role="status">Comparing…</p>}
        {typeof compared === 'string' && <p role="alert">{compared}</p>}
        {compared !== null && typeof compared !== 'string' && <Changes changes={compared.changes} />}
      </Dialog>
    </section>
  );
}
