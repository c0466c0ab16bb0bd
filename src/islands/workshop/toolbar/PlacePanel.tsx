import type { ReactNode } from 'react';
import { groupTools, toolName } from '@/core/inventory';
import type { PlanToolRule } from '@/core/plan';
import { thereInWords, whereInWords } from '@/core/rules';
import { effectInWords, keptInWords, type RuleNames, type ToolsAnswer } from '@/core/toolbar';
import { Icon } from '../../kit/Icon';
import { CARE } from '../model';
import { toolIcon } from './ToolChip';
import { useInventory } from '../../kit/inventory';

/** What a rule did, as the list of why has it: "Under Harbours, “Harbour desk”: writes with “Short words”". */
function stepInWords(step: ToolsAnswer['steps'][number], rules: readonly PlanToolRule[], names: RuleNames): string {
  const rule = rules.find(({ id }) => id === step.rule);
  if (!rule) return step.rule;
  const who = step.role === null ? 'everybody here' : `“${names.role(step.role)}”`;
  return `${whereInWords(rule.when, names)}, ${who} ${effectInWords(rule.then, names, false)}.`;
}

const WHY = {
  taken: 'is taken by the rule',
  capped: 'is more than the rule lets anybody have:',
  replaced: 'was there until the rule',
  elsewhere: 'is given elsewhere by the rule',
  nowhere: 'is given by no rule.',
} as const;

/** A place of the grid: which tools are there, each to be given or taken just there, and why. */
export function PlacePanel({
  title,
  answer,
  names,
  rules,
  needs,
  readOnly,
  onTool,
  onTry,
  going,
  children,
}: {
  /** Tools in force there and not prepared, which what it touches is told of. */
  going: readonly string[];
  /** What the change of tools touches. */
  children: ReactNode;
  title: string;
  answer: ToolsAnswer;
  names: RuleNames;
  rules: readonly PlanToolRule[];
  /** Ticked tasks that take a tool, by their names. */
  needs: (tool: string) => string[];
  readOnly: boolean;
  onTool: (tool: string, on: boolean) => void;
  onTry: () => void;
}) {
  const inventory = useInventory();
  const has = new Set(answer.tools);
  const kept = keptInWords(answer.keep);
  const reasons = answer.missing.filter(({ why }) => why !== 'nowhere' && why !== 'elsewhere');
  const ruleIn = (id: string | null) => {
    const rule = rules.find((one) => one.id === id);
    return rule ? thereInWords(rule.when, names) : '';
  };
  return (
    <section aria-label={`Tools: ${title}`} className="grid gap-3">
      <div>
        <h2 className="clip">{title}</h2>
        {/* In the same line, so that the tools stay where they are under whoever presses them. */}
        <p className="truncate text-sm text-ink-2">
          {going.length === 0 ? (
            'Press a tool to give it just here, or to take it.'
          ) : (
            <a className="link" href="#touched">
              What it touches that “{toolName(inventory, going.at(-1) ?? '')}” goes
            </a>
          )}
        </p>
      </div>
      {groupTools([...inventory.tools.values()]).map((group) => (
        <fieldset key={group.id}>
          <legend className="hint mb-1">{group.name}</legend>
          <div className="flex flex-wrap gap-1">
            {group.tools.map((tool) => {
              const on = has.has(tool.id);
              const missing = on ? [] : needs(tool.id);
              return (
                <button
                  key={tool.id}
                  type="button"
                  aria-pressed={on}
                  disabled={readOnly}
                  title={`${tool.description}${tool.care === 'everyday' ? '' : ` (${CARE[tool.care].name})`}`}
                  className={`inline-flex min-h-7 items-center gap-1 rounded-[5px] border px-1.5 text-sm ${on ? 'border-pine bg-pine-soft font-semibold' : missing.length > 0 ? 'border-brick text-brick' : 'border-line-2 text-ink-2'} hover:border-pine`}
                  onClick={() => onTool(tool.id, !on)}
                >
                  <Icon name={on ? toolIcon(tool.id) : 'plus'} size={14} />
                  {tool.name}
                  {missing.length > 0 && <span className="sr-only"> (missing for {missing.join(', ')})</span>}
                </button>
              );
            })}
          </div>
        </fieldset>
      ))}
      {children}
      <button type="button" className="btn btn-small justify-self-start" onClick={onTry}>
        <Icon name="draft" size={15} /> Try it here
      </button>
      <div aria-live="polite">
        <h3 className="text-base">Why this toolbar?</h3>
        {answer.steps.length === 0 ? (
          <p className="text-sm text-ink-2">No rule says anything here, so there are no tools: plain words only.</p>
        ) : (
          <ol className="mt-1 grid list-decimal gap-1 pl-5 text-sm">
            {answer.steps.map((step, i) => (
              <li key={i} className="clip">
                {stepInWords(step, rules, names)}
              </li>
            ))}
          </ol>
        )}
        {reasons.length > 0 && (
          <ul className="mt-2 grid gap-1 text-sm text-ink-2">
            {reasons.map(({ tool, why, rule }) => (
              <li key={tool} className="clip">
                “{toolName(inventory, tool)}” {WHY[why]} {ruleIn(rule)}.
              </li>
            ))}
          </ul>
        )}
        {kept !== '' && <p className="mt-2 text-sm text-ink-2">Where no tool makes it, {kept}.</p>}
      </div>
    </section>
  );
}
