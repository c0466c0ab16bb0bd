import { useState } from 'react';
import type { Audience } from '@/core/access';
import { reload } from '../kit/leaving';
import { Icon } from '../kit/Icon';
import { Dialog, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';

/** What a page says about its visitors: its own rights, else those it gets from above. */
export interface Visitors {
  own: Audience | null;
  effective: Audience;
  roles: { id: string; name: string }[];
  top: boolean;
}

const wordsOf = (audience: Audience, roles: Visitors['roles']): string =>
  audience.kind === 'everyone'
    ? 'Everyone'
    : audience.kind === 'members'
      ? 'Members: whoever has an account here'
      : `Only ${audience.roles.map((id) => roles.find((r) => r.id === id)?.name ?? id).join(', ')}`;

/** Who may visit the page on the website. It counts at once, for all pages below that say nothing of their own. */
export function VisitorsPanel({ page, visitors }: { page: string; visitors: Visitors }) {
  const { act, busy, problem } = useSend();
  const [now, setNow] = useState(visitors);
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<'above' | Audience['kind']>(now.own?.kind ?? (now.top ? 'everyone' : 'above'));
  const [chosen, setChosen] = useState<string[]>(now.own?.kind === 'roles' ? [...now.own.roles] : []);
  const keep = async () => {
    const own: Audience | null = kind === 'above' ? null : kind === 'roles' ? { kind, roles: chosen } : { kind };
    const sent = await act('PUT', `/api/pages/${page}/audience`, { audience: own });
    if (!sent?.ok) return;
    if (own === null) return reload();
    setNow({ ...now, own, effective: own });
    setOpen(false);
  };
  const choices: [typeof kind, string][] = [
    ...(now.top ? [] : ([['above', 'As the page above']] as [typeof kind, string][])),
    ['everyone', 'Everyone'],
    ['members', 'Members: whoever has an account here'],
    ['roles', 'Only some roles'],
  ];
  return (
    <section className="card" aria-label="Who may visit it" data-anchor="pages.edit.visitors">
      <h2 className="mb-1 text-base">Who may visit it</h2>
      <p className="flex items-start gap-2">
        <Icon name={now.effective.kind === 'everyone' ? 'eye' : 'lock'} size={16} className="mt-1" />
        <span className="clip">
          {wordsOf(now.effective, now.roles)}
          {now.own === null && !now.top && <span className="block text-sm text-ink-2">as the page above</span>}
        </span>
      </p>
      <button type="button" className="btn btn-small mt-2" onClick={() => setOpen(true)}>
        Change who may visit
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} title="Who may visit this page?">
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <ProblemNote problem={problem} />
          <fieldset className="grid gap-1.5">
            <legend className="sr-only">Who may visit it</legend>
            {choices.map(([value, name]) => (
              <label key={value} className="flex min-h-[28px] items-center gap-2">
                <input
                  type="radio"
                  name="audience"
                  className="h-4 w-4 accent-pine"
                  checked={kind === value}
                  onChange={() => setKind(value)}
                />{' '}
                {name}
              </label>
            ))}
          </fieldset>
          {kind === 'roles' && (
            <fieldset className="ml-6 grid gap-1.5">
              <legend className="label">Which roles, and those that build on them</legend>
              {now.roles.map((role) => (
                <label key={role.id} className="flex min-h-[28px] items-center gap-2">
                  <input
                    type="checkbox"
                    className="h-4 w-4 accent-pine"
                    checked={chosen.includes(role.id)}
                    onChange={(event) =>
                      setChosen(event.target.checked ? [...chosen, role.id] : chosen.filter((id) => id !== role.id))
                    }
                  />{' '}
                  <span className="clip">{role.name}</span>
                </label>
              ))}
            </fieldset>
          )}
          <p className="note">
            This counts on the website at once, for this page and all below it that say nothing of their own. Menus and
            lists leave out what a visitor may not see.
          </p>
          <button
            type="submit"
            className="btn btn-main justify-self-start"
            disabled={busy || (kind === 'roles' && chosen.length === 0)}
          >
            Change who may visit it
          </button>
        </form>
      </Dialog>
    </section>
  );
}
