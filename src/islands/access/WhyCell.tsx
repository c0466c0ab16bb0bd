import type { Permission } from '@/core/inventory';
import { useState, useRef } from 'react';
import type { MapRow } from '@/core/access';
import type { WhyGroup } from '@/core/wire';
import { Icon } from '../kit/Icon';
import { Dialog } from '../kit/parts';
import { send } from '../kit/send';
import { type Column, mapPermissions, EXTENT_LOOK } from './columns';
import { useInventory } from '../kit/inventory';

/** What the cell that was chosen says: for each permission of its column, the reasons and the pages they hold for. */
/** Where a no is looked into and mended, with the same plan, branch and day. */
function mendHref(row: MapRow, permission: string, query: string): string {
  const asked = new URLSearchParams(query);
  const to = new URLSearchParams({ who: asked.get('rows') === 'roles' ? `role ${row.id}` : row.id, may: permission });
  for (const name of ['plan', 'branch', 'on']) if (asked.get(name)) to.set(name, asked.get(name) ?? '');
  return `/workshop/access/why?${to.toString()}`;
}
export function WhyCell({
  row,
  column,
  query,
  onClose,
}: {
  row: MapRow;
  column: Column;
  query: string;
  onClose: () => void;
}) {
  const inventory = useInventory();
  const [answers, setAnswers] = useState<Record<string, WhyGroup[] | string>>({});
  const asked = useRef(false);
  if (!asked.current) {
    asked.current = true;
    for (const at of column.at) {
      const { id } = mapPermissions(inventory)[at] as Permission & { section: string };
      void send('GET', `/api/access/why?${query}&row=${encodeURIComponent(row.id)}&permission=${id}`).then((sent) =>
        setAnswers((old) => ({ ...old, [id]: sent.ok ? sent.value.groups : sent.problem.detail })),
      );
    }
  }
  return (
    <Dialog open wide onClose={onClose} title={`${row.name}: ${column.name}`}>
      <div className="grid gap-4">
        {column.at.map((at) => {
          const permission = mapPermissions(inventory)[at] as Permission & { section: string };
          const answer = answers[permission.id];
          const extent = EXTENT_LOOK[row.cells[at] ?? 'no'];
          return (
            <section key={permission.id} aria-label={permission.name}>
              <h3 className="mb-1 flex items-center gap-2">
                <span className={`pill ${extent.look}`}>
                  <Icon name={extent.icon} size={13} /> {extent.word}
                </span>
                May {permission.name}
              </h3>
              {answer === undefined && (
                <p className="text-ink-2" role="status">
                  Looking it up…
                </p>
              )}
              {typeof answer === 'string' && <p className="note note-brick">{answer}</p>}
              {Array.isArray(answer) && (
                <ul className="grid gap-1.5">
                  {answer.map((group) => (
                    <li key={group.words} className="flex gap-2">
                      <span className={`mt-0.5 ${group.allowed ? 'text-pine' : 'text-brick'}`}>
                        <Icon name={group.allowed ? 'check' : 'close'} size={16} />
                        <span className="sr-only">{group.allowed ? 'Yes: ' : 'No: '}</span>
                      </span>
                      <span className="clip">
                        {group.words}
                        {group.pages.length > 0 && (
                          <span className="block text-sm text-ink-2">
                            {group.count} {group.count === 1 ? 'page' : 'pages'}: {group.pages.join(', ')}
                            {group.count > group.pages.length && '…'}
                          </span>
                        )}
                        {group.ways.length > 1 && (
                          <span className="block text-sm text-ink-2">
                            {group.ways.length} rules count: {group.ways.join(' ')}
                          </span>
                        )}
                      </span>
                    </li>
                  ))}
                </ul>
              )}
              {Array.isArray(answer) && answer.some((group) => !group.allowed) && (
                <a className="btn btn-small mt-1.5" href={mendHref(row, permission.id, query)}>
                  What would change it?
                  <span className="sr-only">
                    {' '}
                    {row.name}, {permission.name}
                  </span>
                </a>
              )}
            </section>
          );
        })}
      </div>
    </Dialog>
  );
}
