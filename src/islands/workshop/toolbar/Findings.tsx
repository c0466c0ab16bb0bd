import { toolName, type Inventory } from '@/core/inventory';
import type { Operation, PlanToolRule } from '@/core/plan';
import { apartOf, thereInWords, type Spot } from '@/core/rules';
import { toolRuleInWords, type RuleNames, type ToolFinding } from '@/core/toolbar';
import { Icon } from '../../kit/Icon';
import { ALL_SPOTS, layoutName, textName } from './model';
import { useInventory } from '../../kit/inventory';

/** Some spots by the texts and layouts they are: "“Text” on “Plain page” and 2 more". */
function spotsInWords(inventory: Inventory, spots: readonly Spot[]): string {
  const names = [
    ...new Set(
      spots.map(({ layout, field }) => `“${textName(inventory, layout, field)}” on “${layoutName(inventory, layout)}”`),
    ),
  ];
  const FEW = 3;
  return `${names.slice(0, FEW).join(', ')}${names.length > FEW ? ` and ${names.length - FEW} more` : ''}`;
}

interface Told {
  words: string;
  /** What to press, and what it does; offered only where that mends it and brings nothing new. */
  mend?: { name: string; operations: Operation[] } | { name: string; run: () => void };
}

/** What is worth a word about a role's tools, each with what mends it. */
export function Findings({
  findings,
  rules,
  role,
  names,
  taskName,
  readOnly,
  change,
  mends,
  onNewRule,
}: {
  findings: readonly ToolFinding[];
  rules: readonly PlanToolRule[];
  role: string;
  names: RuleNames;
  taskName: (task: string) => string;
  readOnly: boolean;
  change: (...operations: Operation[]) => void;
  /** Whether operations do away with a finding, and bring no other. */
  mends: (finding: ToolFinding, operations: readonly Operation[]) => boolean;
  /** Begins a rule that holds where one is missing. */
  onNewRule: (when: PlanToolRule['when']) => void;
}) {
  const inventory = useInventory();
  const placesOf = (spots: readonly Spot[]) => {
    const apart = apartOf(rules, spots, ALL_SPOTS);
    return `${spotsInWords(inventory, spots)}${Object.keys(apart).length > 0 ? ` ${thereInWords(apart, names)}` : ''}`;
  };
  const wordsOf = (id: string) => {
    const rule = rules.find((one) => one.id === id);
    return rule ? toolRuleInWords(rule, names).replace(/\.$/, '') : 'a rule';
  };
  const remove = (rule: string): { name: string; operations: Operation[] } => ({
    name: 'Do away with it',
    operations: [{ do: 'remove-tool-rule', role, rule }],
  });
  const tell = (finding: ToolFinding): Told => {
    switch (finding.kind) {
      case 'shadowed':
        return {
          words: `This rule never changes anything, anywhere: “${wordsOf(finding.rule)}”.`,
          mend: remove(finding.rule),
        };
      case 'unheld':
        return {
          words: `Nobody holds a role this rule is for: “${wordsOf(finding.rule)}”.`,
          mend: remove(finding.rule),
        };
      case 'broad': {
        const rule = rules.find(({ id }) => id === finding.rule);
        const [holds, writes] = [finding.holds.length, finding.writes.length];
        const on = (n: number) => `${n} ${n === 1 ? 'layout' : 'layouts'}`;
        return {
          words: `“${wordsOf(finding.rule)}” holds on ${on(holds)}; whoever it is for writes ${writes === 0 ? 'on none of them there' : `on ${on(writes)} of them there`}.`,
          mend:
            rule?.when.layouts && writes > 0
              ? {
                  name: 'Leave the others out',
                  operations: [
                    { do: 'put-tool-rule', role, rule: { ...rule, when: { ...rule.when, layouts: finding.writes } } },
                  ],
                }
              : remove(finding.rule),
        };
      }
      case 'tie': {
        const [a, b] = finding.rules;
        return {
          words: `Two rules are as strong in ${placesOf([finding.spot])}, and the lower one decides: “${wordsOf(a)}”, then “${wordsOf(b)}”.`,
          mend: {
            name: 'Let the other decide',
            operations: [{ do: 'move-tool-rule', role, rule: a, to: rules.findIndex(({ id }) => id === b) }],
          },
        };
      }
      case 'gap':
        return {
          words: `No rule says what they write with in ${placesOf(finding.spots)}: they have no tools there.`,
          mend: {
            name: 'Make a rule',
            run: () => onNewRule({ roles: [role], ...apartOf(rules, finding.spots, ALL_SPOTS) }),
          },
        };
      case 'lacking':
        return {
          words: `“${taskName(finding.task)}” takes “${toolName(inventory, finding.tool)}”, which is missing in ${placesOf(finding.spots)}.`,
          mend:
            finding.spots.length === finding.of
              ? { name: 'Give it there', operations: [{ do: 'set-tool', role, tool: finding.tool, on: true }] }
              : {
                  name: 'Give it there',
                  run: () => {
                    const layouts = [...new Set(finding.spots.map(({ layout }) => layout))];
                    const fields = [...new Set(finding.spots.map(({ field }) => field))];
                    onNewRule({ roles: [role], layouts, fields, ...apartOf(rules, finding.spots, ALL_SPOTS) });
                  },
                },
        };
      case 'unused':
        return {
          words: `Nobody writes with the set “${names.set(finding.set)}”.`,
          mend: { name: 'Do away with it', operations: [{ do: 'remove-tool-set', role, set: finding.set }] },
        };
    }
  };
  if (findings.length === 0) return null;
  return (
    <section aria-label="Worth a look">
      <h2 className="mb-1.5 text-base">Worth a look</h2>
      <ul className="grid gap-2">
        {findings.map((finding, i) => {
          const { words, mend } = tell(finding);
          return (
            <li key={i} className="note flex flex-wrap items-center gap-2">
              <Icon name="warn" size={16} />
              <span className="clip min-w-[14rem] flex-1">{words}</span>
              {mend && !readOnly && (!('operations' in mend) || mends(finding, mend.operations)) && (
                <button
                  type="button"
                  className="btn btn-small"
                  onClick={'operations' in mend ? () => change(...mend.operations) : mend.run}
                >
                  {mend.name}
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
