import { useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { sampleOf } from '@/core/access';
import { freeId } from '@/core/ids';
import { canonical } from '@/core/json';
import type { Operation, PlanToolRule } from '@/core/plan';
import { applyAll, isJust, ruleNames, roleNames, toolWorldOf } from '@/core/plan';
import { CONDITIONS, thereInWords, type KnownSpots } from '@/core/rules';
import { toolFindings, usualPolicy, type ConstructPolicy, type ToolFinding } from '@/core/toolbar';
import { Icon } from '../../kit/Icon';
import { PagePicker } from '../../kit/PagePicker';
import { Labelled } from '../../kit/parts';
import type { StepProps } from './step';
import { Findings } from '../toolbar/Findings';
import { Grid } from '../toolbar/Grid';
import {
  ALL_SPOTS,
  KNOWN_SPOTS,
  writtenKindOf,
  rolesHeldBySomebody,
  layoutName,
  textName,
  usualSpots,
  toolsAt,
  whenOf,
  writingMap,
  type Chosen,
} from '../toolbar/model';
import { PlacePanel } from '../toolbar/PlacePanel';
import { RuleDialog } from '../toolbar/RuleDialog';
import { RulesList } from '../toolbar/RulesList';
import { SetsDialog } from '../toolbar/SetsDialog';
import { Touched } from '../toolbar/Touched';
import { TryDialog } from '../toolbar/TryDialog';
import { useInventory } from '../../kit/inventory';

type Open = { kind: 'rule'; rule: PlanToolRule; isNew: boolean } | { kind: 'sets' } | { kind: 'try' } | null;

/** Which tools the role writes with in which text, by which rules. */
export function ToolbarStep({ facts, plan, prepared, change, setWarning, slot, readOnly }: StepProps) {
  const inventory = useInventory();
  const { role, person } = prepared;
  const [branch, setBranch] = useState('');
  const [seen, setSeen] = useState<Partial<KnownSpots>>({});
  const [chosen, setChosen] = useState<Chosen>({});
  const [open, setOpen] = useState<Open>(null);
  const names = useMemo(
    () =>
      ruleNames(inventory, plan.toolbars.sets, {
        role: roleNames(plan),
        page: (id) => facts.pages.find((page) => page.id === id)?.title ?? 'a page that is gone',
      }),
    [inventory, plan, facts.pages],
  );
  /** What a rule, prepared or in force, tells apart beside places: what of it is looked at can be chosen. */
  const apart = useMemo(
    () =>
      KNOWN_SPOTS.filter((id) =>
        [...plan.toolbars.rules, ...facts.live.toolbars.rules].some(({ when }) => when[id] !== undefined),
      ),
    [plan, facts.live],
  );
  const at = useMemo(() => {
    const usual = usualSpots(inventory, facts);
    return { ...usual, ...Object.fromEntries(apart.map((id) => [id, seen[id] ?? usual[id]])) };
  }, [inventory, facts, apart, seen]);
  const now = useMemo(
    () => writingMap(inventory, facts, plan, person, branch, at),
    [inventory, facts, plan, person, branch, at],
  );
  const before = useMemo(
    () => writingMap(inventory, facts, facts.live, person, branch, at),
    [inventory, facts, person, branch, at],
  );
  /** The same in every state and on every day: what a rule does at some time counts. */
  const everything = useMemo(
    () => writingMap(inventory, facts, plan, person, branch, ALL_SPOTS),
    [inventory, facts, plan, person, branch],
  );
  const { findings, mends } = useMemo(() => {
    const mapOf = (id: string, of: typeof plan) => writingMap(inventory, facts, of, sampleOf(id), '', ALL_SPOTS);
    const found = (of: typeof plan) => {
      const alone = mapOf(role.id, of);
      const known = new Map([[role.id, alone]]);
      const writesOf = (id: string) => {
        let map = known.get(id);
        if (!map) known.set(id, (map = mapOf(id, of)));
        return map;
      };
      return toolFindings({
        world: toolWorldOf(inventory, of),
        spots: alone.spots,
        role: role.id,
        writes: (id, spot) => writesOf(id).writes(spot),
        held: rolesHeldBySomebody(facts),
        tasks: role.tasks.map(({ task }) => ({ task, tools: inventory.tasks.get(task)?.tools ?? [] })),
      });
    };
    // What a finding is about, wherever it shows.
    const keyOf = (finding: ToolFinding) =>
      canonical({
        ...finding,
        ...('spot' in finding && { spot: null }),
        ...('spots' in finding && { spots: null, of: null }),
      });
    const all = found(plan);
    const known = new Map<ToolFinding, boolean>();
    const tried = (finding: ToolFinding, operations: readonly Operation[]) => {
      const after = applyAll(inventory, plan, operations);
      if (!after) return false;
      const left = found(after).map(keyOf);
      const were = new Set(all.map(keyOf));
      return !left.includes(keyOf(finding)) && left.every((key) => were.has(key));
    };
    return {
      findings: all,
      // Each is tried once for a plan, however often the step is drawn.
      mends: (finding: ToolFinding, operations: readonly Operation[]) => {
        const does = known.get(finding) ?? tried(finding, operations);
        known.set(finding, does);
        return does;
      },
    };
  }, [inventory, facts, plan, role]);

  const { rules } = plan.toolbars;
  const extended = toolWorldOf(inventory, plan).extended.get(role.id) ?? new Set([role.id]);
  const theirs = rules.filter(({ when }) => !when.roles || when.roles.some((id) => extended.has(id)));
  const spot = now.spotOf(chosen);
  const answer = now.ask(spot);
  /** Tools in force there and not prepared: of what they make it is told what it touches. */
  const going = before
    .ask(spot)
    .tools.filter((tool) => !answer.tools.includes(tool) && (inventory.tools.get(tool)?.makes.length ?? 0) > 0);
  const taskName = (id: string) =>
    role.tasks.find(({ task }) => task === id)?.name ?? inventory.tasks.get(id)?.name ?? id;
  const whereSeen = (when: PlanToolRule['when']) => thereInWords(when, names);
  const title = [
    chosen.field === undefined
      ? chosen.layout === undefined
        ? 'Everywhere'
        : 'Every text'
      : `“${textName(inventory, chosen.layout, chosen.field)}”`,
    chosen.layout !== undefined && `on “${layoutName(inventory, chosen.layout)}”`,
    branch && `under ${names.page(branch)}`,
    ...apart.map((id) => whereSeen({ [id]: at[id] })),
  ]
    .filter(Boolean)
    .join(' ');
  const when = whenOf(role.id, branch, chosen);
  const onTools = (tools: readonly string[], on: boolean) => {
    const operations = toolsAt(inventory, plan, role.id, tools, on, { when, spot });
    if (operations === null)
      setWarning(
        'A rule for a narrower place, for some days, or for everybody says otherwise. Change that rule below.',
      );
    else {
      setWarning(null);
      change(...operations);
    }
  };
  const isHere = ({ layout, field, page }: { layout: string; field: string; page?: string }) => {
    if (
      (chosen.layout !== undefined && chosen.layout !== layout) ||
      (chosen.field !== undefined && chosen.field !== field)
    )
      return false;
    if (page === undefined) return true;
    const place = facts.pages.find(({ id }) => id === page)?.place;
    if (!place || (branch !== '' && !place.path.includes(branch))) return false;
    return now.writes({ path: place.path, layout, state: 'draft', field });
  };
  const isLayoutHere = (layout: string) => chosen.layout === undefined || chosen.layout === layout;
  const onPolicy = (construct: string, policy: ConstructPolicy) => {
    const own = rules.findLast((rule) => isJust(rule, when));
    const keep = { ...own?.keep, [construct]: policy };
    change({
      do: 'put-tool-rule',
      role: role.id,
      rule: own ? { ...own, keep } : { id: freeId(rules, `${role.id}-keep`), when, then: { add: [] }, keep },
    });
  };
  const pillOf = (id: string) => {
    if (findings.some((one) => one.kind === 'shadowed' && one.rule === id))
      return { words: 'never changes anything', bad: true };
    const places = new Set(
      everything.spots
        .filter((one) => everything.writes(one) && everything.ask(one).steps.some((step) => step.rule === id))
        .map(({ layout, field }) => `${layout} ${field}`),
    ).size;
    return { words: `${places} ${places === 1 ? 'place' : 'places'}`, bad: places === 0 };
  };
  const newRule = (when: PlanToolRule['when']) =>
    setOpen({
      kind: 'rule',
      isNew: true,
      // What it does is for the administrator to say.
      rule: { id: 'new', when, then: plan.toolbars.sets.length > 0 ? { use: '' } : { add: [] } },
    });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
      <div className="flex flex-wrap gap-4">
        <div className="w-full max-w-sm">
          <PagePicker
            label="In which part of the website"
            pages={facts.pages}
            value={branch}
            whole="Wherever they write"
            onChange={setBranch}
          />
        </div>
        {apart.map((id) => (
          <Labelled key={id} label={CONDITIONS[id].asks.label}>
            {(ids) => (
              <select
                {...ids}
                className="field"
                value={String(at[id][0])}
                onChange={(event) =>
                  setSeen({ ...seen, [id]: ALL_SPOTS[id].filter((one) => String(one) === event.target.value) })
                }
              >
                {ALL_SPOTS[id].map((one) => (
                  <option key={one} value={one}>
                    {whereSeen({ [id]: [one] })}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
        ))}
      </div>
      <div>
        <Grid plan={plan} now={now.cell} before={before.cell} chosen={chosen} onChoose={setChosen} />
        <p className="hint mt-1.5">
          Choose a place to see why and to change it there. Titles, summaries and other short fields take plain words
          from everybody. Taking a tool away takes nothing out of pages.
        </p>
      </div>
      <section aria-label="The rules behind it">
        <div className="mb-1.5 flex flex-wrap items-baseline gap-x-3">
          <h2 className="text-base">The rules behind it</h2>
          <p className="text-sm text-ink-2">
            Where several speak of the same place, the narrower one counts: one for a text before one for a part of the
            website, that before one for a layout. Of two as narrow the lower one counts.
          </p>
        </div>
        <RulesList
          rules={theirs}
          names={names}
          marked={new Set(answer.steps.map((step) => step.rule))}
          pillOf={pillOf}
          readOnly={readOnly}
          onMove={(rule, over) =>
            change({ do: 'move-tool-rule', role: role.id, rule, to: rules.findIndex(({ id }) => id === over) })
          }
          onChange={(rule) => setOpen({ kind: 'rule', rule, isNew: false })}
          onRemove={(rule) => change({ do: 'remove-tool-rule', role: role.id, rule })}
        />
        <div className="mt-3 flex flex-wrap gap-2">
          {!readOnly && (
            <button type="button" className="btn" onClick={() => newRule(when)}>
              <Icon name="plus" /> New rule
            </button>
          )}
          <button type="button" className="btn btn-quiet" onClick={() => setOpen({ kind: 'sets' })}>
            <Icon name="table" /> All sets side by side
          </button>
          <button type="button" className="btn btn-quiet" onClick={() => setOpen({ kind: 'try' })}>
            <Icon name="draft" /> Try a case
          </button>
        </div>
      </section>
      <Findings
        findings={findings}
        rules={rules}
        role={role.id}
        names={names}
        taskName={taskName}
        readOnly={readOnly}
        change={change}
        mends={mends}
        onNewRule={newRule}
      />
      {slot &&
        createPortal(
          <PlacePanel
            title={title}
            answer={answer}
            names={names}
            rules={rules}
            needs={(tool) =>
              role.tasks
                .filter(({ task }) => inventory.tasks.get(task)?.tools?.includes(tool))
                .map(({ task }) => taskName(task))
            }
            readOnly={readOnly}
            onTool={(tool, on) => onTools([tool], on)}
            onTry={() => setOpen({ kind: 'try' })}
            going={going}
          >
            <Touched
              facts={facts}
              plan={plan}
              role={role.id}
              going={going}
              staying={answer.tools}
              isHere={isHere}
              isLayoutHere={isLayoutHere}
              policyOf={(construct) => answer.keep[construct] ?? usualPolicy(construct)}
              readOnly={readOnly}
              onPolicy={onPolicy}
              onTakeAway={(tools) => onTools(tools, false)}
            />
          </PlacePanel>,
          slot,
        )}
      {open?.kind === 'rule' && (
        <RuleDialog
          plan={plan}
          role={role.id}
          old={open.rule}
          isNew={open.isNew}
          pages={facts.pages}
          names={names}
          onKeep={(rule) => {
            setOpen(null);
            change({ do: 'put-tool-rule', role: role.id, rule });
          }}
          onClose={() => setOpen(null)}
        />
      )}
      {open?.kind === 'sets' && (
        <SetsDialog
          plan={plan}
          role={role.id}
          names={names}
          readOnly={readOnly}
          onPut={(set) => change({ do: 'put-tool-set', role: role.id, set })}
          onRemove={(set) => change({ do: 'remove-tool-set', role: role.id, set })}
          onClose={() => setOpen(null)}
        />
      )}
      {open?.kind === 'try' && (
        <TryDialog
          facts={facts}
          plan={plan}
          person={person}
          start={{ kind: writtenKindOf(inventory, chosen), page: now.pageFor(chosen), field: chosen.field ?? 'body' }}
          onClose={() => setOpen(null)}
        />
      )}
    </div>
  );
}
