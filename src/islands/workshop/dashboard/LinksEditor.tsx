import { useState } from 'react';
import { asHref, isHref } from '@/core/content';
import type { WidgetSettings } from '@/core/dashboard';
import { canonical } from '@/core/json';
import { Icon } from '../../kit/Icon';
import { useLeft } from '../../kit/useLeft';
import { unfit } from '../unfit';

type Links = NonNullable<WidgetSettings['links']>;

/** What is wrong with the first of some links that cannot stand so; null where all can. */
function faultOf(links: Links): string | null {
  const odd = links.find(({ name, href }) => !name.trim() || !isHref(href));
  if (!odd) return null;
  return odd.name.trim()
    ? `“${odd.name}” needs an address that begins with https://, mailto:, tel: or /.`
    : `The link to ${odd.href} has no name.`;
}
const written = (links: Links): Links =>
  links
    .map(({ name, href }) => ({ name: name.trim(), href: asHref(href.trim()) }))
    .filter(({ name, href }) => name || href);

/** The links of a widget, set as one goes: when they are left all together, and stand so that they can be followed. */
export function LinksEditor({
  id,
  links,
  readOnly,
  onCommit,
}: {
  id: string;
  links: Links;
  readOnly: boolean;
  onCommit: (links: Links) => void;
}) {
  const [rows, setRows] = useState(() => (unfit.get(id) as Links | undefined) ?? links);
  const [fault, setFault] = useState(() => (unfit.has(id) ? faultOf(written(rows)) : null));
  const now = canonical(links);
  const [last, setLast] = useState(now);
  if (last !== now) {
    setLast(now);
    if (!fault) setRows(links);
  }
  const commit = (next: Links) => {
    const full = written(next);
    const odd = faultOf(full);
    setFault(odd);
    if (odd) unfit.set(id, next);
    else unfit.delete(id);
    if (!odd && canonical(full) !== now) onCommit(full);
  };
  const leave = useLeft(() => {
    if (!readOnly) commit(rows);
  });
  const put = (i: number, one: Partial<Links[number]>) =>
    setRows(rows.map((link, k) => (k === i ? { ...link, ...one } : link)));
  return (
    <fieldset
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) leave();
      }}
    >
      <legend className="label">Links</legend>
      <ul className="grid gap-2">
        {rows.map((link, i) => (
          <li key={i} className="grid gap-1.5 rounded-s border border-line p-2">
            <input
              className="field"
              aria-label={`Name of link ${i + 1}`}
              placeholder="What it is called"
              maxLength={80}
              value={link.name}
              onChange={(event) => put(i, { name: event.target.value })}
            />
            <div className="flex gap-1.5">
              <input
                className="field min-w-0 flex-1"
                aria-label={`Address of link ${i + 1}`}
                placeholder="/room/pages or https://…"
                value={link.href}
                onChange={(event) => put(i, { href: event.target.value })}
                onBlur={(event) => put(i, { href: asHref(event.target.value.trim()) })}
              />
              <button
                type="button"
                className="btn btn-small"
                aria-label={`Take link ${i + 1} away`}
                onClick={() => {
                  const next = rows.filter((_, k) => k !== i);
                  setRows(next);
                  commit(next);
                }}
              >
                <Icon name="close" size={15} />
              </button>
            </div>
          </li>
        ))}
      </ul>
      <div role="alert" className="empty:hidden">
        {fault && <p className="note note-brick mt-2">{fault}</p>}
      </div>
      <button
        type="button"
        className="btn btn-small mt-2"
        disabled={rows.length >= 20}
        onClick={() => setRows([...rows, { name: '', href: '' }])}
      >
        <Icon name="plus" size={15} /> Add a link
      </button>
    </fieldset>
  );
}
