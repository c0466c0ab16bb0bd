import { useState } from 'react';
import { PAGE_STATES, STATE_WORDS, doingWithScope, type PageState } from '@/core/access';
import {
  fieldIds,
  fieldName,
  objectOf,
  scopeNames,
  type Permission,
  type Inventory,
  ofInventory,
} from '@/core/inventory';
import type { BranchSpot, PlanGrant, PlanRole } from '@/core/plan';
import { Chips } from '../../kit/Chips';
import { Dialog } from '../../kit/parts';
import { PagesPicker } from '../../kit/PagesPicker';
import type { WorkshopPage } from '../model';
import { whereId } from './WherePanel';
import { useInventory } from '../../kit/inventory';

const fieldsOf = ofInventory(fieldIds);

/** What a pattern lets somebody do, as a sentence has it. */
export function patternInWords(inventory: Inventory, pattern: string): string {
  if (pattern === '*') return 'do everything';
  const section = inventory.sections.find((s) => s.id === inventory.sectionOfObject.get(objectOf(pattern)));
  return pattern.endsWith('.*')
    ? `do everything with ${section?.name.toLowerCase() ?? pattern}`
    : (inventory.permissions.get(pattern as never)?.name ?? pattern);
}

/** A grant as one sentence: "They may change pages that are drafts, under Harbours, only their own work." */
export function grantSentence(
  inventory: Inventory,
  { effect, permission, scope }: Pick<PlanGrant, 'effect' | 'permission' | 'scope'>,
  pageName: (id: string) => string,
): string {
  const doing = doingWithScope(patternInWords(inventory, permission), scope, pageName, scopeNames(inventory));
  return `They ${effect === 'allow' ? 'may' : 'must not'} ${doing}.`;
}

/** Builds one rule as a sentence, or changes one that is there. */
export function GrantDialog({
  permission,
  old,
  pages,
  role,
  onKeep,
  onClose,
}: {
  permission: Permission;
  old: PlanGrant | null;
  pages: readonly WorkshopPage[];
  role: PlanRole;
  /** One rule, or one for each page chosen. */ onKeep: (grants: PlanGrant[]) => void;
  onClose: () => void;
}) {
  const inventory = useInventory();
  const [effect, setEffect] = useState<'allow' | 'deny'>(old?.effect ?? 'allow');
  const [pattern, setPattern] = useState(old?.permission ?? permission.id);
  const [spots, setSpots] = useState<BranchSpot[]>(
    old?.scope.branch === undefined ? [] : [{ branch: old.scope.branch, ...(old.scope.only && { only: true }) }],
  );
  const [own, setOwn] = useState(old?.scope.own ?? false);
  const [states, setStates] = useState<PageState[]>(old?.scope.states ?? []);
  const [kinds, setKinds] = useState<string[]>(old?.scope.layouts ?? []);
  const [fields, setFields] = useState<string[]>(old?.scope.fields ?? []);
  const byField = effect === 'allow' && pattern === 'page.edit';
  const object = objectOf(permission.id);
  const patterns = [
    ...new Set([pattern, ...[...inventory.permissions.keys()].filter((id) => objectOf(id) === object), `${object}.*`]),
  ];
  const isPlaced = permission.placed;
  const scopeOn = (spot: Partial<BranchSpot>): PlanGrant['scope'] =>
    isPlaced
      ? {
          ...spot,
          ...(states.length && { states }),
          ...(kinds.length && { layouts: kinds }),
          ...(own && { own: true as const }),
          ...(byField && fields.length && { fields }),
        }
      : own
        ? { own: true as const }
        : {};
  const on: readonly Partial<BranchSpot>[] = spots.length === 0 ? [{}] : spots;
  const keep = () => {
    const taken = new Set(role.grants.map((g) => g.id));
    onKeep(
      on.map((spot, i): PlanGrant => {
        const base = `${effect === 'deny' ? 'not-' : ''}${pattern.replace('*', 'all')}${spot.branch === undefined ? '' : `-${whereId(spot)}`}${own ? '-own' : ''}${states.length ? `-${states.join('-')}` : ''}${byField && fields.length ? '-some' : ''}`;
        let id = old && i === 0 ? old.id : base;
        for (let n = 2; !(old && i === 0) && taken.has(id); n++) id = `${base}-${n}`;
        taken.add(id);
        return { id, effect, permission: pattern, scope: scopeOn(spot) };
      }),
    );
  };
  const pageName = (id: string) => pages.find((p) => p.id === id)?.title ?? 'a page that is gone';
  return (
    <Dialog open onClose={onClose} wide title={old ? 'Change this rule' : 'A new rule'}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <div className="grid gap-3 md:grid-cols-[10rem_minmax(0,1fr)]">
          <div>
            <label className="label" htmlFor="rule-effect">
              They
            </label>
            <select
              id="rule-effect"
              className="field"
              value={effect}
              onChange={(event) => setEffect(event.target.value as 'allow' | 'deny')}
            >
              <option value="allow">may</option>
              <option value="deny">must not</option>
            </select>
          </div>
          <div>
            <label className="label" htmlFor="rule-what">
              Do what
            </label>
            <select
              id="rule-what"
              className="field"
              value={pattern}
              onChange={(event) => setPattern(event.target.value)}
            >
              {patterns.map((one) => (
                <option key={one} value={one}>
                  {patternInWords(inventory, one)}
                </option>
              ))}
            </select>
          </div>
        </div>
        {isPlaced && (
          <>
            <Chips
              label="That are"
              any="in any state"
              all={PAGE_STATES}
              nameOf={(state) => STATE_WORDS[state]}
              value={states}
              onChange={setStates}
            />
            <Chips
              label="With layout"
              any="any"
              all={[...inventory.layouts.keys()]}
              nameOf={(id) => inventory.layouts.get(id)?.name ?? id}
              value={kinds}
              onChange={setKinds}
            />
            <PagesPicker label="Under" pages={pages} value={spots} onChange={setSpots} />
          </>
        )}
        {byField && (
          <details open={old?.scope.fields !== undefined}>
            <summary className="btn btn-quiet btn-small">Only some fields of them</summary>
            <Chips
              label="Fields"
              any="all of the page"
              all={fieldsOf(inventory)}
              nameOf={(id) => fieldName(inventory, id) ?? id}
              value={fields}
              onChange={setFields}
            />
          </details>
        )}
        <div>
          <label className="label" htmlFor="rule-own">
            Written by
          </label>
          <select
            id="rule-own"
            className="field"
            value={own ? 'own' : 'any'}
            onChange={(event) => setOwn(event.target.value === 'own')}
          >
            <option value="any">anybody</option>
            <option value="own">themselves only</option>
          </select>
        </div>
        <p className={`note ${effect === 'deny' ? 'note-brick' : 'note-pine'}`} role="status">
          {on.map((spot) => (
            <strong key={spot.branch ?? ''} className="block font-head text-[1.1rem]">
              {grantSentence(inventory, { effect, permission: pattern, scope: scopeOn(spot) }, pageName)}
            </strong>
          ))}
          {effect === 'deny' && (
            <span className="block">A “must not” wins over every “may”, wherever it comes from.</span>
          )}
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn btn-main">
            {old ? 'Change the rule' : effect === 'allow' ? 'Allow it' : 'Forbid it'}
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
