import { Icon } from '../kit/Icon';
import { PagePicker, type PickedPage } from '../kit/PagePicker';
import type { GivenAssignment, RoleChoice } from './model';

/** The roles somebody shall hold: which, where, from when, until when. Days count whole, the last included. */
export function Assignments({ value, roles, pages, faultOf, onChange, field }: { value: GivenAssignment[]; roles: readonly RoleChoice[]; pages: readonly PickedPage[]; faultOf: (field: string) => string | undefined; onChange: (value: GivenAssignment[]) => void; field: string }) {
  const put = (at: number, change: Partial<Record<keyof GivenAssignment, string>>) =>
    onChange(value.map((a, i) => (i === at ? (Object.fromEntries(Object.entries({ ...a, ...change }).filter(([key, v]) => key === 'role' || v !== '')) as unknown as GivenAssignment) : a)));
  return (
    <fieldset className="grid gap-3">
      <legend className="label">Roles</legend>
      {value.length === 0 && <p className="text-ink-2">No role: they can sign in, and do nothing.</p>}
      {value.map((a, at) => {
        const fault = [`${field}.${at}`, `${field}.${at}.branch`, `${field}.${at}.from`, `${field}.${at}.until`].map(faultOf).find(Boolean);
        return (
          <div key={at} role="group" aria-label={`Role ${at + 1}`} className="grid gap-2 rounded-s border border-line bg-paper p-3">
            <div className="grid gap-3 md:grid-cols-2">
              <div>
                <label className="label" htmlFor={`${field}-role-${at}`}>Role</label>
                <select id={`${field}-role-${at}`} className="field" required value={a.role} onChange={(event) => put(at, { role: event.target.value })}>
                  <option value="">Which role?</option>
                  {roles.filter((r) => !r.archived || r.id === a.role).map((r) => <option key={r.id} value={r.id}>{r.name}{r.archived ? ' (archived)' : ''}</option>)}
                </select>
              </div>
              <PagePicker label="On which part of the site" pages={pages} value={a.branch ?? ''} whole="The whole website" onChange={(id) => put(at, { branch: id })} />
            </div>
            <div className="flex flex-wrap items-end gap-3">
              <div>
                <label className="label" htmlFor={`${field}-from-${at}`}>First day</label>
                <input id={`${field}-from-${at}`} type="date" className="field" value={a.from ?? ''} onChange={(event) => put(at, { from: event.target.value })} />
              </div>
              <div>
                <label className="label" htmlFor={`${field}-until-${at}`}>Last day</label>
                <input id={`${field}-until-${at}`} type="date" className="field" value={a.until ?? ''} onChange={(event) => put(at, { until: event.target.value })} />
              </div>
              <p className="hint flex-1 pb-2">Left empty: from now on, without end.</p>
              <button type="button" className="btn btn-small btn-quiet btn-stop mb-1" onClick={() => onChange(value.filter((_, i) => i !== at))}>
                <Icon name="close" size={15} /> Take away<span className="sr-only"> role {at + 1}</span>
              </button>
            </div>
            {fault && <p className="font-semibold text-brick">{fault}</p>}
          </div>
        );
      })}
      <button type="button" className="btn btn-small justify-self-start" onClick={() => onChange([...value, { role: '' }])}>
        <Icon name="plus" size={15} /> {value.length === 0 ? 'Give a role' : 'Give another role'}
      </button>
    </fieldset>
  );
}
