import { Icon } from '../kit/Icon';
import { PagePicker } from '../kit/PagePicker';
import type { ReactNode } from 'react';
import type { GivenAssignment } from '@/core/wire';
import type { RoleChoice } from './model';
import { WhenField } from '../kit/when/WhenField';

/**
 * One role somebody shall hold: which (unless it is fixed), where, from when, until when. Days count whole, the last
 * included.
 */
export function AssignmentFields({
  id,
  value,
  roles,
  fixedRole,
  onChange,
  children,
}: {
  id: string;
  value: GivenAssignment;
  roles: readonly RoleChoice[];
  fixedRole?: RoleChoice | undefined;
  onChange: (value: GivenAssignment) => void;
  children?: ReactNode;
}) {
  const put = (change: Partial<Record<keyof GivenAssignment, string>>) =>
    onChange(
      Object.fromEntries(
        Object.entries({ ...value, ...change }).filter(([key, v]) => key === 'role' || v !== ''),
      ) as unknown as GivenAssignment,
    );
  return (
    <>
      <div className="grid gap-3 md:grid-cols-2">
        {!fixedRole && (
          <div>
            <label className="label" htmlFor={`${id}-role`}>
              Role
            </label>
            <select
              id={`${id}-role`}
              className="field"
              required
              value={value.role}
              onChange={(event) => put({ role: event.target.value })}
            >
              <option value="">Which role?</option>
              {roles
                .filter((r) => !r.archived || r.id === value.role)
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                    {r.archived ? ' (archived)' : ''}
                  </option>
                ))}
            </select>
          </div>
        )}
        <PagePicker
          pages="seen"
          label="On which part of the site"
          value={value.branch ?? ''}
          whole="The whole website"
          onChange={(page) => put({ branch: page })}
        />
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <div>
          <label className="label" htmlFor={`${id}-from`}>
            First day
          </label>
          <WhenField id={`${id}-from`} kind="day" value={value.from ?? ''} onChange={(value) => put({ from: value })} />
        </div>
        <div>
          <label className="label" htmlFor={`${id}-until`}>
            Last day
          </label>
          <WhenField
            id={`${id}-until`}
            kind="day"
            value={value.until ?? ''}
            onChange={(value) => put({ until: value })}
          />
        </div>
        <p className="hint flex-1 pb-2">Left empty: from now on, without end.</p>
        {children}
      </div>
    </>
  );
}

/** The roles somebody shall hold: which, where, from when, until when. Days count whole, the last included. */
export function Assignments({
  value,
  roles,
  faultOf,
  onChange,
  field,
}: {
  value: GivenAssignment[];
  roles: readonly RoleChoice[];
  faultOf: (field: string) => string | undefined;
  onChange: (value: GivenAssignment[]) => void;
  field: string;
}) {
  return (
    <fieldset className="grid gap-3">
      <legend className="label">Roles</legend>
      {value.length === 0 && <p className="text-ink-2">No role: they can sign in, and do nothing.</p>}
      {value.map((a, at) => {
        const fault = [`${field}.${at}`, `${field}.${at}.branch`, `${field}.${at}.from`, `${field}.${at}.until`]
          .map(faultOf)
          .find(Boolean);
        return (
          <div
            key={at}
            role="group"
            aria-label={`Role ${at + 1}`}
            className="grid gap-2 rounded-s border border-line bg-paper p-3"
          >
            <AssignmentFields
              id={`${field}-${at}`}
              value={a}
              roles={roles}
              onChange={(next) => onChange(value.map((one, i) => (i === at ? next : one)))}
            >
              <button
                type="button"
                className="btn btn-small btn-quiet btn-stop mb-1"
                onClick={() => onChange(value.filter((_, i) => i !== at))}
              >
                <Icon name="close" size={15} /> Take away<span className="sr-only"> role {at + 1}</span>
              </button>
            </AssignmentFields>
            {fault && <p className="font-semibold text-brick">{fault}</p>}
          </div>
        );
      })}
      <button
        type="button"
        className="btn btn-small justify-self-start"
        onClick={() => onChange([...value, { role: '' }])}
      >
        <Icon name="plus" size={15} /> {value.length === 0 ? 'Give a role' : 'Give another role'}
      </button>
    </fieldset>
  );
}
