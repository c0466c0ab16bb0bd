import { useMemo, useState } from 'react';
import { covers, scopeInWords } from '@/core/access';
import { scopeNames, type Permission } from '@/core/inventory';
import type { PlanGrant } from '@/core/plan';
import { neededBy } from '@/core/task';
import { Icon } from '../../kit/Icon';
import { CARE, inheritedGrants } from '../model';
import type { StepProps } from './step';
import { GrantDialog, grantSentence } from './GrantDialog';
import { RoleTies } from './RoleTies';
import { WherePanel } from './WherePanel';
import { useInventory } from '../../kit/inventory';

/** What the role may do, on which branch: own rules, those that come from other roles, and what the tasks need. */
export function AccessStep({ facts, plan, prepared, change, setFocus, readOnly }: StepProps) {
  const inventory = useInventory();
  const { role, best } = prepared;
  const [editing, setEditing] = useState<{ permission: Permission; old: PlanGrant | null } | null>(null);
  const needed = useMemo(() => neededBy(inventory, role), [inventory, role]);
  const inherited = useMemo(() => inheritedGrants(plan, role), [plan, role]);
  const page = (id: string) => facts.pages.find((p) => p.id === id)?.title ?? 'a page that is gone';
  const chipWords = (grant: PlanGrant) => {
    const where = scopeInWords(grant.scope, page, scopeNames(inventory));
    return [
      grant.permission === '*' ? 'everything' : grant.permission.endsWith('.*') ? 'all of it' : null,
      ...(where.length ? where : ['whole website']),
    ]
      .filter(Boolean)
      .join(', ');
  };
  // What no rule of the role, own or inherited, speaks of at all, and nothing forbids.
  const lacking = [...needed.keys()].filter((permission) => {
    const decision = best(permission);
    return (
      !decision.allowed &&
      decision.reason !== 'denied' &&
      ![...role.grants, ...inherited.map(({ grant }) => grant)].some(
        (grant) => grant.effect === 'allow' && covers(grant.permission, permission),
      )
    );
  });
  return (
    <div className="grid gap-5">
      <RoleTies plan={plan} role={role} change={change} readOnly={readOnly} />
      {role.id !== 'keyholder' && (
        <WherePanel plan={plan} role={role} pages={facts.pages} lacking={lacking} change={change} readOnly={readOnly} />
      )}
      {inventory.sections
        .filter((section) => section.permissions.length > 0)
        .map((section) => (
          <section key={section.id} aria-label={section.name}>
            <h2 className="mb-1.5 text-base">{section.face === 'frame' ? 'On every screen' : section.name}</h2>
            <ul className="card divide-y divide-line p-0">
              {section.permissions.map((permission) => {
                const decision = best(permission.id);
                const own = role.grants.filter((g) => covers(g.permission, permission.id));
                const from = inherited.filter(({ grant }) => covers(grant.permission, permission.id));
                const tasks = needed.get(permission.id);
                return (
                  <li key={permission.id} className="flex flex-wrap items-center gap-x-3 gap-y-1.5 px-4 py-2.5">
                    <div className="min-w-[15rem] flex-1 2xl:w-[34rem] 2xl:flex-none">
                      <div className="flex items-start gap-2">
                        <span className={`pill ${decision.allowed ? 'pill-pine' : 'pill-plain'}`}>
                          <Icon name={decision.allowed ? 'check' : 'close'} size={13} />{' '}
                          {decision.allowed ? 'yes' : 'no'}
                        </span>
                        <p>
                          <strong>May {permission.name}</strong>{' '}
                          {permission.care !== 'everyday' && (
                            <span className={`pill ${CARE[permission.care].pill} font-normal`}>
                              {CARE[permission.care].name}
                            </span>
                          )}
                        </p>
                      </div>
                      <p className="mt-0.5 text-sm text-ink-2">
                        {tasks
                          ? `Needed for ${tasks.map((t) => `“${t}”`).join(', ')}`
                          : decision.allowed
                            ? 'No ticked task needs it'
                            : ''}
                      </p>
                    </div>
                    <div className="flex flex-wrap items-center gap-1.5">
                      {own.map((grant) => {
                        const isFixed = readOnly || (role.id === 'keyholder' && grant.permission === '*');
                        const look =
                          grant.effect === 'deny' ? 'border-brick bg-brick-soft text-brick' : 'border-line-2 bg-paper';
                        const words = (
                          <>
                            {grant.effect === 'deny' && <Icon name="lock" size={13} />}
                            {grant.effect === 'deny' && <strong>must not:</strong>} {chipWords(grant)}
                          </>
                        );
                        return (
                          <span
                            key={grant.id}
                            className={`inline-flex items-center gap-1 rounded-s border text-sm ${look} ${isFixed ? 'px-2 py-0.5' : ''}`}
                          >
                            {isFixed ? (
                              words
                            ) : (
                              <>
                                <button
                                  type="button"
                                  className="inline-flex min-h-6 items-center gap-1 rounded-s px-2 py-0.5 text-left hover:underline"
                                  aria-label={`Change the rule: ${grantSentence(inventory, grant, page)}`}
                                  onClick={() => setEditing({ permission, old: grant })}
                                >
                                  {words}
                                </button>
                                <button
                                  type="button"
                                  className="flex h-6 w-6 items-center justify-center rounded-s hover:bg-brick-soft"
                                  aria-label={`Take away: ${grantSentence(inventory, grant, page)}`}
                                  onClick={() => change({ do: 'remove-grant', role: role.id, grant: grant.id })}
                                >
                                  <Icon name="close" size={14} />
                                </button>
                              </>
                            )}
                          </span>
                        );
                      })}
                      {from.map(({ grant, from: name }) => (
                        <span
                          key={`${name}${grant.id}`}
                          className={`inline-flex items-center gap-1 rounded-s border border-dashed px-2 py-0.5 text-sm ${grant.effect === 'deny' ? 'border-brick text-brick' : 'border-line-2 text-ink-2'}`}
                        >
                          {grant.effect === 'deny' && <strong>must not:</strong>} {chipWords(grant)} · from {name}
                        </span>
                      ))}
                    </div>
                    <div className="flex gap-1">
                      <button type="button" className="btn btn-quiet btn-small" onClick={() => setFocus(permission.id)}>
                        Why?<span className="sr-only"> may they {permission.name}</span>
                      </button>
                      {!readOnly && (
                        <button
                          type="button"
                          className="btn btn-small"
                          onClick={() => setEditing({ permission, old: null })}
                        >
                          <Icon name="plus" size={15} /> Add<span className="sr-only"> a rule: {permission.name}</span>
                        </button>
                      )}
                    </div>
                  </li>
                );
              })}
            </ul>
          </section>
        ))}
      {editing && (
        <GrantDialog
          permission={editing.permission}
          old={editing.old}
          pages={facts.pages}
          role={role}
          onClose={() => setEditing(null)}
          onKeep={(grants) => {
            change(
              ...grants.map((grant) => ({
                do: editing.old?.id === grant.id ? ('change-grant' as const) : ('add-grant' as const),
                role: role.id,
                grant,
              })),
            );
            setFocus(editing.permission.id);
            setEditing(null);
          }}
        />
      )}
    </div>
  );
}
