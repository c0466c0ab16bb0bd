import { useState } from 'react';
import { PAGE_STATES } from '@/core/access';
import { groupTools } from '@/core/inventory';
import { freeId } from '@/core/ids';
import { type Plan, type PlanToolRule } from '@/core/plan';
import { CONDITION_IDS, CONDITIONS, type ConditionId, type Named, type When } from '@/core/rules';
import { CONSTRUCT_NAMES, toolRuleInWords, type ConstructPolicy, type RuleNames } from '@/core/toolbar';
import { Chips } from '../../kit/Chips';
import { PagePicker } from '../../kit/PagePicker';
import { Dialog } from '../../kit/parts';
import type { WorkshopPage } from '../model';
import { gridForms, layoutName, gridTexts, textName } from './model';
import { useInventory } from '../../kit/inventory';

type What = 'use' | 'add' | 'take' | 'cap';
const WHATS: [What, string][] = [
  ['use', 'write with a set of tools'],
  ['add', 'have some tools besides'],
  ['take', 'go without some tools'],
  ['cap', 'have never more than some tools'],
];
const POLICIES: [ConstructPolicy | '', string][] = [
  ['', 'as usual'],
  ['whole', 'stays whole'],
  ['words', 'words may change, the form stays'],
  ['free', 'may be changed and taken away'],
];

/** Asks for one thing that can be said of where and when a rule holds. */
function ConditionField({
  id,
  names,
  pages,
  value,
  onChange,
}: {
  id: ConditionId;
  names: RuleNames;
  pages: readonly WorkshopPage[];
  value: When[ConditionId];
  onChange: (said: string | (string | number)[]) => void;
}) {
  const inventory = useInventory();
  const { asks } = CONDITIONS[id];
  if (asks.among === 'page')
    return (
      <PagePicker
        label={asks.label}
        pages={pages}
        value={typeof value === 'string' ? value : ''}
        whole={asks.any}
        onChange={onChange}
      />
    );
  const named: Record<Exclude<Named, 'page'>, [all: readonly string[], nameOf: (id: string) => string]> = {
    layout: [gridForms(inventory).map(({ layout }) => layout.id), (one) => layoutName(inventory, one)],
    field: [gridTexts(inventory).map((text) => text.id), (one) => textName(inventory, undefined, one)],
    state: [PAGE_STATES, names.state],
  };
  const [all, nameOf] =
    typeof asks.among === 'string' ? named[asks.among] : [asks.among, (one: never) => asks.name?.(one) ?? String(one)];
  return (
    <Chips
      label={asks.label}
      any={asks.any}
      all={all}
      nameOf={nameOf as (one: string | number) => string}
      value={Array.isArray(value) ? value : []}
      onChange={onChange}
    />
  );
}

/** Makes a rule for tools, or changes one that is there. */
export function RuleDialog({
  plan,
  role,
  old,
  isNew,
  pages,
  names,
  onKeep,
  onClose,
}: {
  plan: Plan;
  role: string;
  /** What it begins with. */
  old: PlanToolRule;
  isNew: boolean;
  pages: readonly WorkshopPage[];
  names: RuleNames;
  onKeep: (rule: PlanToolRule) => void;
  onClose: () => void;
}) {
  const inventory = useInventory();
  const [when, setWhen] = useState(old.when);
  const roles = when.roles ?? [];
  const isRare = (id: ConditionId) => CONDITIONS[id].asks.rare === true;
  const [isNarrowed] = useState(CONDITION_IDS.some((id) => isRare(id) && when[id] !== undefined));
  /** What is said of nothing is not said. */
  const say = <Id extends keyof When>(id: Id, said: When[Id]) => {
    const { [id]: _, ...rest } = when;
    setWhen(said === undefined || said.length === 0 ? rest : { ...rest, [id]: said });
  };
  const field = (id: ConditionId) => (
    <ConditionField
      key={id}
      id={id}
      names={names}
      pages={pages}
      value={when[id]}
      onChange={(said) => say(id, said as never)}
    />
  );
  const [what, setWhat] = useState<What>(WHATS.find(([one]) => old.then[one] !== undefined)?.[0] ?? 'use');
  const [set, setSet] = useState(old.then.use ?? '');
  const [tools, setTools] = useState(old.then.add ?? old.then.take ?? old.then.cap ?? []);
  const [keep, setKeep] = useState<Record<string, ConstructPolicy>>(old.keep ?? {});
  const rule: PlanToolRule = {
    id: isNew ? freeId(plan.toolbars.rules, `${role}-rule`) : old.id,
    when,
    then: what === 'use' ? { use: set } : { [what]: tools },
    ...(Object.keys(keep).length > 0 && { keep }),
  };
  const isEmpty = what === 'use' ? set === '' : tools.length === 0 && what !== 'cap' && Object.keys(keep).length === 0;
  return (
    <Dialog open onClose={onClose} wide title={isNew ? 'A new rule for tools' : 'Change this rule'}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isEmpty) onKeep(rule);
        }}
      >
        <Chips
          label="Who"
          any="everybody"
          all={plan.roles.filter((one) => !one.archived || roles.includes(one.id)).map(({ id }) => id)}
          nameOf={names.role}
          value={roles}
          onChange={(ids) => say('roles', ids)}
        />
        {CONDITION_IDS.filter((id) => !isRare(id)).map(field)}
        <details open={isNarrowed}>
          <summary className="btn btn-quiet btn-small">Narrow it further</summary>
          <div className="mt-2 grid gap-4">{CONDITION_IDS.filter(isRare).map(field)}</div>
        </details>
        <div className="grid gap-3 md:grid-cols-2">
          <div>
            <label className="label" htmlFor="tool-rule-what">
              They
            </label>
            <select
              id="tool-rule-what"
              className="field"
              value={what}
              onChange={(event) => setWhat(event.target.value as What)}
            >
              {WHATS.map(([one, name]) => (
                <option key={one} value={one}>
                  {name}
                </option>
              ))}
            </select>
          </div>
          {what === 'use' && (
            <div>
              <label className="label" htmlFor="tool-rule-set">
                Set of tools
              </label>
              <select id="tool-rule-set" className="field" value={set} onChange={(event) => setSet(event.target.value)}>
                {set === '' && <option value="">Choose one…</option>}
                {plan.toolbars.sets.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            </div>
          )}
        </div>
        {what !== 'use' && (
          <fieldset>
            <legend className="label">Tools</legend>
            <div className="grid gap-x-4 sm:grid-cols-2 md:grid-cols-3">
              {groupTools([...inventory.tools.values()])
                .flatMap((group) => group.tools)
                .map((tool) => (
                  <label key={tool.id} className="flex min-h-7 items-center gap-2" title={tool.description}>
                    <input
                      type="checkbox"
                      className="h-4 w-4 shrink-0 accent-pine"
                      checked={tools.includes(tool.id)}
                      onChange={(event) =>
                        setTools(
                          [...inventory.tools.keys()].filter((id) =>
                            id === tool.id ? event.target.checked : tools.includes(id),
                          ),
                        )
                      }
                    />
                    {tool.name}
                  </label>
                ))}
            </div>
          </fieldset>
        )}
        <details open={old.keep !== undefined}>
          <summary className="btn btn-quiet btn-small">What becomes of things their toolbar cannot make</summary>
          <div className="mt-2 grid gap-2 sm:grid-cols-2">
            {Object.entries(CONSTRUCT_NAMES).map(([construct, name]) => (
              <label key={construct} className="flex items-center justify-between gap-2 text-sm">
                <span>{name}</span>
                <select
                  className="field w-auto py-0.5 text-sm"
                  value={keep[construct] ?? ''}
                  onChange={(event) => {
                    const { [construct]: _, ...rest } = keep;
                    const policy = event.target.value as ConstructPolicy | '';
                    setKeep(policy === '' ? rest : { ...rest, [construct]: policy });
                  }}
                >
                  {POLICIES.map(([policy, says]) => (
                    <option key={policy} value={policy}>
                      {says}
                    </option>
                  ))}
                </select>
              </label>
            ))}
          </div>
          <p className="hint mt-1">
            As usual a table and a picture stay whole; everything else may be changed and taken away.
          </p>
        </details>
        <p className="note note-pine" role="status">
          <strong className="font-head text-[1.05rem]">
            {isEmpty
              ? what === 'use'
                ? 'Choose a set of tools.'
                : 'Choose some tools.'
              : toolRuleInWords(rule, names)}
          </strong>
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn btn-main" disabled={isEmpty}>
            {isNew ? 'Make this rule' : 'Change the rule'}
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
