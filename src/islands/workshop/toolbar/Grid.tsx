import { canonical } from '@/core/json';
import type { ToolsAnswer } from '@/core/toolbar';
import { groupTools, type Inventory } from '@/core/inventory';
import { groupsIn, type Plan } from '@/core/plan';
import { asButtons, ToolChip } from './ToolChip';
import { gridForms, layoutName, gridTexts, textName, type GridCell, type Chosen } from './model';
import { useInventory } from '../../kit/inventory';

/** Kinds of toolbars are told apart by a letter, each the same everywhere. */
const letterOf = (n: number) => String.fromCharCode(65 + (n % 26)) + (n < 26 ? '' : String(Math.floor(n / 26)));

/** The set a toolbar began with, and what rules added and took since: "Short news + 1, − 1". */
function fromSets(plan: Plan, { steps }: ToolsAnswer): string {
  const names: string[] = [];
  let [more, less] = [0, 0];
  for (const step of steps) {
    if (step.did === 'use') {
      const rule = plan.toolbars.rules.find(({ id }) => id === step.rule);
      names.push(plan.toolbars.sets.find(({ id }) => id === rule?.then.use)?.name ?? step.rule);
      [more, less] = [0, 0];
    } else if (step.did === 'add') more += step.tools.length;
    else less += step.tools.length;
  }
  const changes = [more > 0 && `+ ${more}`, less > 0 && `− ${less}`].filter(Boolean).join(', ');
  return [names.at(-1), changes].filter(Boolean).join(' ');
}

/** The tools in the order the toolbar has them: by their groups, as the set has those that the first role writes with. */
function inGroups(inventory: Inventory, plan: Plan, answer: ToolsAnswer): string[] {
  const there = [...inventory.tools.values()].filter(({ id }) => answer.tools.includes(id));
  return groupTools(there, groupsIn(plan.toolbars, answer)).flatMap((group) => group.tools.map(({ id }) => id));
}

/** The toolbar somebody gets in every text they may write in: layouts down, texts across. */
export function Grid({
  plan,
  now,
  before,
  chosen,
  onChoose,
}: {
  plan: Plan;
  now: (layout: string, field: string) => GridCell;
  /** By the plan in force. */
  before: (layout: string, field: string) => GridCell;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}) {
  const inventory = useInventory();
  const kinds: string[] = [];
  const kindOf = ({ tools, keep }: ToolsAnswer) => {
    const said = canonical([tools, keep]);
    if (!kinds.includes(said)) kinds.push(said);
    return letterOf(kinds.indexOf(said));
  };
  const isChosen = (place: Chosen) => place.layout === chosen.layout && place.field === chosen.field;
  const choose = (place: Chosen, label: string, children: React.ReactNode, className = '') => (
    <button
      type="button"
      aria-pressed={isChosen(place)}
      aria-label={label}
      className={`grid h-full w-full content-start gap-1.5 p-2.5 text-left hover:bg-pine-wash ${isChosen(place) ? 'shadow-[inset_0_0_0_3px_var(--color-sun)]' : ''} ${className}`}
      onClick={() => onChoose(place)}
    >
      {children}
    </button>
  );
  return (
    <div className="relative overflow-x-auto">
      <table
        className="w-full table-fixed border-collapse bg-sheet max-md:min-w-[42rem]"
        aria-label="The toolbar they get, place by place"
      >
        <thead>
          <tr className="bg-paper">
            <td className="h-px w-[8.5rem] border border-line p-0">
              {choose({}, 'Everywhere', <span className="font-semibold">Everywhere</span>)}
            </td>
            {gridTexts(inventory).map((text) => (
              <th key={text.id} scope="col" className="h-px border border-line p-0 text-left font-normal">
                {choose({ field: text.id }, `“${text.name}” on every layout`, <strong>{text.name}</strong>)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {gridForms(inventory).map(({ layout, texts }) => (
            <tr key={layout.id}>
              <th scope="row" className="h-px border border-line p-0 text-left font-normal">
                {choose(
                  { layout: layout.id },
                  `“${layoutName(inventory, layout.id)}”, every text`,
                  <strong className="clip">{layoutName(inventory, layout.id)}</strong>,
                )}
              </th>
              {gridTexts(inventory).map(({ id: field }) => {
                if (!texts.some(({ id }) => id === field))
                  return (
                    <td key={field} className="hatched border border-line p-2.5 align-top text-sm text-ink-2">
                      Has no such text
                    </td>
                  );
                const cell = now(layout.id, field);
                const was = before(layout.id, field).answer?.tools ?? [];
                const label = `“${textName(inventory, layout.id, field)}” on “${layoutName(inventory, layout.id)}”`;
                const { answer } = cell;
                if (!answer)
                  return (
                    <td key={field} className="hatched h-px border border-line p-0 align-top">
                      {choose(
                        { layout: layout.id, field },
                        `${label}: they do not write here`,
                        <span className="text-sm text-ink-2">They do not write here</span>,
                      )}
                    </td>
                  );
                const buttons = asButtons(inventory, inGroups(inventory, plan, answer));
                const gone = asButtons(inventory, was).filter((one) => !buttons.some(({ id }) => id === one.id));
                const wasButtons = asButtons(inventory, was);
                return (
                  <td key={field} className="h-px border border-line p-0 align-top">
                    {choose(
                      { layout: layout.id, field },
                      `${label}: ${buttons.map(({ name }) => name).join(', ') || 'no tools'}`,
                      <>
                        <span className="flex flex-wrap gap-1">
                          {buttons.map((one) => (
                            <ToolChip
                              key={one.id}
                              {...one}
                              mark={wasButtons.some(({ id }) => id === one.id) ? undefined : 'new'}
                            />
                          ))}
                          {gone.map((one) => (
                            <ToolChip key={one.id} {...one} mark="gone" />
                          ))}
                          {buttons.length === 0 && <span className="text-sm text-ink-2">No tools: plain words</span>}
                        </span>
                        <span className="flex items-baseline gap-1.5 text-xs text-ink-2">
                          <span className="shrink-0 rounded-full border border-line-2 bg-paper px-1.5 font-bold text-ink">
                            {kindOf(answer)}
                          </span>
                          <span className="clip">
                            {fromSets(plan, answer) || 'no rule'}
                            {cell.varies && ' · other tools in some parts of the website'}
                          </span>
                        </span>
                      </>,
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
